/** A person as two letters, with the whole name for hover and screen readers. */
export function Initials({
  name,
  size = 22,
  strong = false,
}: {
  name: string;
  size?: number;
  strong?: boolean;
}) {
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
      className={`inline-flex shrink-0 items-center justify-center rounded-full text-[10.5px] font-bold ${strong ? "bg-ink text-paper" : "bg-accent-soft text-ink"}`}
      style={{ width: size, height: size }}
    >
      {letters}
    </span>
  );
}
