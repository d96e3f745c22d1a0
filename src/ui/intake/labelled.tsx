import type { ReactNode } from "react";

/** A field with its label above it. */
export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
      {label}
      {children}
    </label>
  );
}
