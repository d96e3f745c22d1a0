import type { ReactNode } from "react";

/** A group of parts under the name by which they are imported. */
export function Shown({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div>
      <h2 className="mb-2 border-b border-line pb-0.5 text-[14px]">{name}</h2>
      <div className="flex flex-wrap items-start gap-3">{children}</div>
    </div>
  );
}

export interface OnPaper {
  /** Two papers stand side by side: names of groups differ. */
  paper: "light" | "dark";
}
