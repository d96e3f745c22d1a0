"use client";
import type { Day } from "@/core/calendar/month";
import { goesOutWords } from "@/core/plan/goes-out";
import type { FoundReport } from "@/core/intake/found-report";
import { MoreRows } from "@/ui/kit/more-rows";
import { problemOf } from "@/ui/kit/request";
import { TextButton } from "@/ui/kit/button";
import { DeskRow } from "./desk-row";
import { ago } from "@/ui/kit/time";

interface Acts {
  now: number;
  today: Day;
  openId: string | null;
  onOpen: (id: string) => void;
  /** Left out for those who may not judge. */
  onUndo?: (found: FoundReport) => void;
}

/** Reports that were found, wherever they stand. */
export function FoundList({
  found,
  words,
  ...acts
}: Acts & {
  found: {
    rows: FoundReport[];
    rest: number;
    error: unknown;
    reading: boolean;
    more: () => void;
  };
  words: string;
}) {
  const { rows, rest, error, reading, more } = found;
  if (error && rows.length === 0) {
    const { sentence, help } = problemOf(error);
    return (
      <p role="alert" className="p-4 text-alarm">
        {sentence} {help}
      </p>
    );
  }
  if (reading) return <p className="p-4 text-ink-soft">Looking…</p>;
  if (rows.length === 0)
    return (
      <p className="p-4 text-ink-soft">
        {words.trim()
          ? `No report of this project holds “${words.trim()}”: not its reference, its words or its mail address.`
          : "Nothing was judged yet. What gets a verdict can be found here for good."}
      </p>
    );
  return (
    <>
      <ul aria-label="Found reports">
        {rows.map((row) => (
          <Row key={row.id} row={row} {...acts} />
        ))}
      </ul>
      {rest > 0 && <MoreRows key={rows.length} rest={rest} what="more report" onMore={more} />}
    </>
  );
}

/** Where a report stands: "accepted as TIX-12". */
function standing({ status, itemKey }: FoundReport): string {
  switch (status) {
    case "unjudged":
      return "waits";
    case "asked":
      return "asked";
    case "parked":
      return "parked";
    case "declined":
      return "declined";
    case "accepted":
      return itemKey ? `accepted as ${itemKey}` : "accepted";
    case "merged":
      return itemKey ? `merged into ${itemKey}` : "merged";
  }
}

function Row({ row, now, today, openId, onOpen, onUndo }: Acts & { row: FoundReport }) {
  const { verdict } = row;
  return (
    <DeskRow
      reference={row.reference}
      title={row.title}
      open={row.id === openId}
      onOpen={() => onOpen(row.id)}
      stands={
        <span
          className={`truncate text-[12.5px] ${row.status === "unjudged" ? "font-semibold text-ink" : "text-ink-soft"}`}
        >
          {standing(row)}
        </span>
      }
      beside={
        verdict &&
        onUndo && (
          <TextButton
            className="absolute right-3 bottom-2 text-[12.5px]"
            aria-label={`Undo the verdict on ${row.reference}`}
            onClick={() => onUndo(row)}
          >
            undo
          </TextButton>
        )
      }
    >
      <span className={`block text-[12.5px] text-ink-soft ${verdict && onUndo ? "pr-12" : ""}`}>
        {verdict
          ? `${verdict.by ?? "a rule"}, ${ago(verdict.at, now)}`
          : `came ${ago(row.receivedAt, now)}`}
        {row.goesOut && ` · ${goesOutWords(row.goesOut, today)}`}
      </span>
    </DeskRow>
  );
}
