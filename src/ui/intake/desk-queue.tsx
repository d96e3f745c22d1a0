"use client";
import { Check } from "@/ui/kit/check";
import { Select } from "@/ui/kit/select";
import {
  DESK_ORDERS,
  DESK_SHOWS,
  type DeskFilter,
  type DeskGroup,
} from "@/core/intake/desk-filter";
import type { DeskView, QueueRow } from "@/core/intake/desk-view";
import { REPORT_WAYS, WAY_WORDS } from "@/core/intake/report";
import { shortDate, span } from "@/ui/kit/time";
import { PromiseMark } from "./promise-mark";

const LONG_WAIT_MS = 3 * 86_400_000;

/** What of the desk is shown. */
export function DeskFilters({
  desk,
  filter,
  onChange,
}: {
  desk: DeskView;
  filter: DeskFilter;
  onChange: (filter: DeskFilter) => void;
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
  return (
    <div
      role="group"
      aria-label="Shown on the desk"
      className="grid grid-cols-2 gap-1.5 border-b border-line bg-well px-3 py-2"
    >
      {choice(
        "show",
        "Reports shown",
        DESK_SHOWS.map((s) => [s, s]),
      )}
      {choice(
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
    </div>
  );
}

interface QueueProps {
  groups: DeskGroup[];
  openId: string | null;
  selected: ReadonlySet<string>;
  now: number;
  onOpen: (id: string) => void;
  onSelect: (id: string) => void;
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

function Row({
  row,
  openId,
  selected,
  now,
  onOpen,
  onSelect,
  maySelect,
}: Omit<QueueProps, "groups" | "empty"> & { row: QueueRow }) {
  const waits = now - row.receivedAt;
  const open = row.id === openId;
  const chosen = selected.has(row.id);
  return (
    <li
      className={`group relative border-b border-line ${open ? "bg-accent-soft shadow-[inset_3px_0_0_var(--accent)]" : chosen ? "bg-sheet" : "hover:bg-sheet"}`}
    >
      {maySelect && (
        <label
          className={`absolute right-2 bottom-1 z-10 flex w-6 items-center justify-center ${chosen ? "" : "opacity-0 focus-within:opacity-100 group-hover:opacity-100"}`}
        >
          <Check
            aria-label={`Select ${row.reference}`}
            checked={chosen}
            onChange={() => onSelect(row.id)}
          />
        </label>
      )}
      <button
        type="button"
        aria-current={open ? "true" : undefined}
        data-reference={row.reference}
        onClick={() => onOpen(row.id)}
        className="block w-full px-4 py-2 text-left"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="key">{row.reference}</span>
          <span
            className={`whitespace-nowrap text-[12.5px] ${waits > LONG_WAIT_MS && row.status === "unjudged" ? "font-semibold text-signal-ink" : "text-ink-soft"}`}
          >
            {row.status === "asked"
              ? "asked"
              : row.status === "parked"
                ? row.parkedFor
                  ? `until ${row.parkedFor} is done`
                  : row.parkedUntil
                    ? `until ${shortDate(row.parkedUntil)}`
                    : "for an item outside your view"
                : span(waits)}
          </span>
        </span>
        <span className="line-clamp-2 font-medium leading-snug">{row.title}</span>
        {row.promise && (
          <span className="block">
            <PromiseMark
              state={row.promise.state}
              what={row.promise.what === "done" ? "finish" : "answer"}
            />
          </span>
        )}
        {row.returnedAt !== null && (
          <span className="block text-[12.5px] text-signal-ink">
            came back: answered or its day has come
          </span>
        )}
        {row.readers.length > 0 && (
          <span className="block text-[12.5px] font-semibold text-accent">
            {row.readers.join(", ")} is reading it
          </span>
        )}
      </button>
    </li>
  );
}
