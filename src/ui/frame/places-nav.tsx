"use client";
import Link from "next/link";
import { usePathname } from "next/navigation";

/** One of the places of a stop of the course. */
export interface Place {
  /** Behind the address of the stop. */
  path: string;
  title: string;
}

/** The places of a stop of the course, in a row above each of them. */
export function PlacesNav({
  label,
  base,
  places,
}: {
  label: string;
  /** The address of the stop. */
  base: string;
  places: readonly Place[];
}) {
  const pathname = usePathname();
  return (
    <nav
      aria-label={label}
      className="flex shrink-0 items-center gap-4 overflow-x-auto border-b border-line px-4"
    >
      {places.map(({ path, title }) => {
        const href = `${base}${path}`;
        const here = pathname === href;
        return (
          <Link
            prefetch={false}
            key={path}
            href={href}
            aria-current={here ? "page" : undefined}
            className={`whitespace-nowrap border-b-2 py-1.5 text-[13px] ${here ? "border-accent font-semibold" : "border-transparent text-ink-soft hover:text-ink"}`}
          >
            {title}
          </Link>
        );
      })}
    </nav>
  );
}
