import type { ReactNode } from "react";
import { Mark } from "@/ui/kit/mark";

/** A page with one thing to do, outside any project. */
export function QuietPage({
  title,
  says,
  children,
}: {
  title: string;
  says: ReactNode;
  children: ReactNode;
}) {
  return (
    <main className="mx-auto flex min-h-dvh max-w-[420px] flex-col justify-center gap-4 px-6 py-10">
      <div className="flex items-center gap-3">
        <Mark size={40} />
        <div>
          <h1 className="text-[22px] leading-tight">{title}</h1>
          <p className="text-ink-soft">{says}</p>
        </div>
      </div>
      {children}
    </main>
  );
}
