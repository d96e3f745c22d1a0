import type { ReactNode } from "react";

/** A chart with what it says in words above it. */
export function ChartFrame({
  title,
  says,
  children,
  wide = false,
}: {
  title: string;
  says: ReactNode;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <section
      className={`sheet flex min-w-0 flex-col p-3 ${wide ? "lg:col-span-2" : ""}`}
      aria-label={title}
    >
      <h2 className="text-[15px]">{title}</h2>
      <p className="mb-1 text-[12.5px] text-ink-soft">{says}</p>
      <div className="min-h-0 flex-1">{children}</div>
    </section>
  );
}

export function Nothing({ children }: { children: ReactNode }) {
  return (
    <p className="flex h-full min-h-[160px] items-center justify-center px-6 text-center text-ink-soft">
      {children}
    </p>
  );
}
