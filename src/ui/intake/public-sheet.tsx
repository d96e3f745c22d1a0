import type { ReactNode } from "react";
import { Mark } from "@/ui/kit/mark";

/** A page for people without an account: large enough to read and to touch on a phone. */
export function Sheet({ projectName, children }: { projectName: string; children: ReactNode }) {
  return (
    <main className="public-page mx-auto max-w-[640px] px-4 py-8 sm:py-12">
      <p className="mb-4 flex items-center gap-3">
        <Mark size={34} />
        <span className="font-display text-[15px] font-semibold">{projectName}</span>
      </p>
      <div className="sheet px-5 py-6 sm:px-8">{children}</div>
    </main>
  );
}
