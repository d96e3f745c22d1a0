"use client";
import Link from "next/link";
import { usePathname } from "next/navigation";

const PLACES = [
  { path: "", title: "Triage desk" },
  { path: "/worth", title: "Worth and urgency" },
  { path: "/promises", title: "Promises" },
  { path: "/forms", title: "Forms" },
  { path: "/mailbox", title: "Mailbox" },
  { path: "/rules", title: "Triage rules" },
] as const;

/** The places of Intake. */
export function IntakeNav({ projectKey }: { projectKey: string }) {
  const pathname = usePathname();
  return (
    <nav aria-label="Intake" className="flex shrink-0 items-center gap-4 border-b border-line px-4">
      {PLACES.map(({ path, title }) => {
        const href = `/p/${projectKey}/intake${path}`;
        const here = pathname === href;
        return (
          <Link
            prefetch={false}
            key={path}
            href={href}
            aria-current={here ? "page" : undefined}
            className={`border-b-2 py-1.5 text-[13px] ${here ? "border-accent font-semibold" : "border-transparent text-ink-soft hover:text-ink"}`}
          >
            {title}
          </Link>
        );
      })}
    </nav>
  );
}
