"use client";
import { ShieldAlert } from "lucide-react";
import { useRef } from "react";
import { Check } from "@/ui/kit/check";
import { Select } from "@/ui/kit/select";
import {
  DESK_ORDERS,
  DESK_SHOWS,
  partsOnDesk,
  type DeskFilter,
  type DeskGroup,
} from "@/core/intake/desk-filter";
import type { DeskView, QueueRow } from "@/core/intake/desk-view";
import type { ReturnReason } from "@/core/intake/report-history";
import { REPORT_WAYS, WAY_WORDS } from "@/core/intake/report";
import { shortDate, span } from "@/ui/kit/time";
import { TextInput } from "@/ui/kit/field";
import { DeskRow } from "./desk-row";
import { VERDICT_KINDS } from "@/core/intake/triage-figures";
import { VERDICT_PAST } from "@/core/intake/verdict";
import { PromiseMark } from "./promise-mark";

const LONG_WAIT_MS = 3 * 86_400_000;

/** What of the desk is shown, and what is looked for among all reports there ever were. */
export function DeskFilters({
  desk,
  filter,
  onChange,
  words,
  looking,
  onWords,
  onFirst,
  field,
}: {
  desk: DeskView;
  filter: DeskFilter;
  onChange: (filter: DeskFilter) => void;
  words: string;
  /** Whether the list shows what was found. */
  looking: boolean;
  onWords: (words: string) => void;
  /** Opens the first that was found. */
  onFirst: () => void;
  field: React.Ref<HTMLInputElement>;
}) {
  const choice = <K extends keyof DeskFilter>(
    field: K,
    label: string,
    options: [value: string, label: string][],
  ) => (
    <Select
      label={label}
      className={`!min-h-[26px] !py-0 text-[12.5px] ${filter[field] !== "" && filter[field] !== options[0][0] ? "!border-accent font-semibold" : ""}`}
      value={filter[field]}
      options={options.map(([value, text]) => ({ value: value, label: text }))}
      onChange={(next) => onChange({ ...filter, [field]: next as DeskFilter[K] })}
    />
  );
  const parts = partsOnDesk(desk);
  return (
    <div
      role="group"
      aria-label="Shown on the desk"
      className="grid grid-cols-2 gap-1.5 border-b border-line bg-well px-3 py-2"
    >
      <TextInput
        ref={field}
        type="search"
        aria-label="Find a report"
        placeholder="Find: reference, words, mail"
        className="col-span-2 !min-h-[28px] !py-0 text-[13px]"
        value={words}
        onChange={(e) => onWords(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter") onFirst();
          if (e.key === "Escape") {
            onWords("");
            e.currentTarget.blur();
          }
        }}
      />
      {choice(
        "show",
        "Reports shown",
        DESK_SHOWS.map((s) => [s, s]),
      )}
      {looking
        ? choice("verdict", "Verdict", [
            ["", "every verdict"],
            ...VERDICT_KINDS.map((k) => [k, VERDICT_PAST[k]] as [string, string]),
          ])
        : choice(
            "order",
            "Order",
            DESK_ORDERS.map((o) => [o, o]),
          )}
      {choice("way", "Way in", [
        ["", "all ways in"],
        ...REPORT_WAYS.map((w) => [w, WAY_WORDS[w]] as [string, string]),
      ])}
      {choice("teamId", "Team", [
        ["", "all teams"],
        ...desk.teams.map((t) => [t.id, t.name] as [string, string]),
      ])}
      {!looking && parts.length > 0 && (
        <div className="col-span-2">
          {choice("part", "Part of the product", [
            ["", "all parts of the product"],
            ...parts.map(([name, n]) => [name, `${name} (${n})`] as [string, string]),
          ])}
        </div>
      )}
    </div>
  );
}

interface QueueProps {
  groups: DeskGroup[];
  openId: string | null;
  selected: ReadonlySet<string>;
  now: number;
  zone: string;
  onOpen: (id: string) => void;
  /** @param range whether all between this one and the one selected last are meant */
  onSelect: (id: string, range: boolean) => void;
  maySelect: boolean;
  empty: string;
}

/** The list of the desk. */
export function DeskQueue({ groups, empty, ...props }: QueueProps) {
  if (groups.length === 0) return <p className="p-4 text-ink-soft">{empty}</p>;
  return groups.map(({ heading, rows }) => (
    <section key={heading ?? ""} aria-label={heading ?? "Waiting for a verdict"}>
      {heading && (
        <h2 className="border-y border-line bg-well px-4 py-1 text-[12.5px]">
          {heading} <span className="font-normal text-ink-soft">{rows.length}</span>
        </h2>
      )}
      <ul>
        {rows.map((row) => (
          <Row key={row.id} row={row} {...props} />
        ))}
      </ul>
    </section>
  ));
}

const RETURNED: Record<ReturnReason, string> = {
  answered: "an answer came",
  "day reached": "its day has come",
  "item ended": "what it waited for is done",
  "taken apart": "taken off its item",
  "one like it came": "one like it came",
  "its part changed": "its part of the product changed",
};

/** Until when a report is put aside, or how long it waits. */
function waitsFor(row: QueueRow, now: number): string {
  if (row.status === "asked") return "asked";
  if (row.status !== "parked") return span(now - row.receivedAt);
  if (row.parkedFor) return `until ${row.parkedFor} is done`;
  return row.parkedUntil ? `until ${shortDate(row.parkedUntil)}` : "for an item outside your view";
}

function Row({
  row,
  openId,
  selected,
  now,
  zone,
  onOpen,
  onSelect,
  maySelect,
}: Omit<QueueProps, "groups" | "empty"> & { row: QueueRow }) {
  const chosen = selected.has(row.id);
  const range = useRef(false);
  const long = now - row.receivedAt > LONG_WAIT_MS && row.status === "unjudged";
  return (
    <DeskRow
      reference={row.reference}
      title={row.title}
      open={row.id === openId}
      chosen={chosen}
      onOpen={() => onOpen(row.id)}
      stands={
        <span
          className={`whitespace-nowrap text-[12.5px] ${long ? "font-semibold text-signal-ink" : "text-ink-soft"}`}
        >
          {waitsFor(row, now)}
        </span>
      }
      beside={
        maySelect && (
          <label
            onClickCapture={(e) => (range.current = e.shiftKey)}
            className={`absolute right-2 bottom-1 z-10 flex w-6 items-center justify-center ${chosen ? "" : "opacity-0 focus-within:opacity-100 group-hover:opacity-100"}`}
          >
            <Check
              aria-label={`Select ${row.reference} ${row.title}`}
              checked={chosen}
              onChange={() => onSelect(row.id, range.current)}
            />
          </label>
        )
      }
    >
      {row.promise && (
        <span className="block">
          <PromiseMark
            state={row.promise.state}
            zone={zone}
            what={row.promise.what === "done" ? "finish" : "answer"}
          />
        </span>
      )}
      {row.hole && (
        <span className="flex items-center gap-1 text-[12.5px] font-semibold text-alarm">
          <ShieldAlert size={13} aria-hidden="true" /> may be a hole in security
        </span>
      )}
      {row.returnedAt !== null && (
        <span className="block text-[12.5px] font-semibold text-signal-ink">
          {row.returnedWhy ? RETURNED[row.returnedWhy] : "came back"}
        </span>
      )}
      {row.readers.length > 0 && (
        <span className="block text-[12.5px] font-semibold text-accent">
          {row.readers.join(", ")} is reading it
        </span>
      )}
    </DeskRow>
  );
}
