import type { ReactNode } from "react";

/** A way to the code host, where it told an address; plain words where it did not. */
export function HostLink({ url, children }: { url: string | null; children: ReactNode }) {
  if (url === null) return children;
  return (
    <a className="link" href={url} target="_blank" rel="noreferrer noopener">
      {children}
    </a>
  );
}
