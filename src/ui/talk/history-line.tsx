import type { ItemView } from "@/core/item/item-view";
import { ago, exact } from "@/ui/kit/time";

export type HistoryEntry = ItemView["history"][number];

/** One change of an item, in words. */
export function HistoryLine({
  entry: { who, words, note, at },
  zone,
  now,
}: {
  entry: HistoryEntry;
  zone: string;
  now: number;
}) {
  return (
    <p className="history-line">
      <span className="history-sign" aria-hidden="true" />
      <span>
        <b>{who}</b> {words}
        {note && <q className="text-ink-soft"> {note}</q>}{" "}
        <time title={exact(at, zone)}>{ago(at, Math.max(now, at))}</time>
      </span>
    </p>
  );
}
