"use client";
import { usePictureOf } from "./people-pictures";

/** A person as their picture or as two letters, with the whole name for hover and screen readers. */
export function Initials({
  name,
  size = 22,
  strong = false,
}: {
  name: string;
  size?: number;
  strong?: boolean;
}) {
  const picture = usePictureOf(name);
  if (picture)
    return (
      // Served by our own route, small already; the optimiser has no part in it.
      // eslint-disable-next-line @next/next/no-img-element
      <img
        src={picture}
        alt={name}
        title={name}
        width={size}
        height={size}
        className={`inline-block shrink-0 rounded-full object-cover ${strong ? "outline-2 -outline-offset-1 outline-ink" : ""}`}
        style={{ width: size, height: size }}
      />
    );
  const letters = name
    .split(/\s+/)
    .filter(Boolean)
    .map((part) => part[0])
    .slice(0, 2)
    .join("")
    .toUpperCase();
  return (
    <span
      role="img"
      aria-label={name}
      title={name}
      className={`inline-flex shrink-0 items-center justify-center rounded-full font-bold ${size > 40 ? "text-[22px]" : "text-[10.5px]"} ${strong ? "bg-ink text-paper" : "bg-accent-soft text-ink"}`}
      style={{ width: size, height: size }}
    >
      {letters}
    </span>
  );
}
