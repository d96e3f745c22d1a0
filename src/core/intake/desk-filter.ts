import type { DeskView, QueueRow } from "./desk-view";
import type { ReportWay } from "./report";
import type { VerdictKind } from "./verdict";
import type { TargetStanding } from "./service-target";

export const DESK_SHOWS = [
  "everything",
  "waiting for an answer",
  "parked",
  "came back",
  "near its promise",
  "judged",
] as const;
export type DeskShow = (typeof DESK_SHOWS)[number];
export const DESK_ORDERS = ["oldest first", "by promise"] as const;
export type DeskOrder = (typeof DESK_ORDERS)[number];

/** What of the desk is shown, and in which order; an empty way or team stands for all. */
export interface DeskFilter {
  way: ReportWay | "";
  teamId: string;
  /** The name of a part of the product; empty for all. */
  part: string;
  show: DeskShow;
  order: DeskOrder;
  /** Of those that are looked for: which verdict stands on them; empty for all. */
  verdict: VerdictKind | "";
}

export const WHOLE_DESK: DeskFilter = {
  way: "",
  teamId: "",
  part: "",
  show: "everything",
  order: "oldest first",
  verdict: "",
};

/** Reports under one heading; the first group of the queue has none. */
export interface DeskGroup {
  heading: string | null;
  rows: QueueRow[];
}

const STANDINGS: readonly [TargetStanding, heading: string][] = [
  ["missed", "Promise missed"],
  ["at risk", "Promise at risk"],
  ["on time", "In time"],
  ["paused", "Standing still"],
  ["kept", "Promise kept"],
];

const isNear = (row: QueueRow) =>
  row.promise?.state.standing === "at risk" || row.promise?.state.standing === "missed";

/**
 * What the list of the desk shows, in groups; empty groups are left out, so nothing at all means
 * that nothing fits. What was judged is on the desk no more: it is found.
 */
export function deskGroups(
  { queue, aside }: Pick<DeskView, "queue" | "aside">,
  { way, teamId, part, show, order }: DeskFilter,
): DeskGroup[] {
  const fits = (row: QueueRow) =>
    (way === "" || row.way === way) &&
    (teamId === "" || row.teamId === teamId) &&
    (part === "" || row.parts.includes(part));
  const waiting = queue.filter(fits);
  const put = aside.filter(fits);
  const groups: DeskGroup[] =
    show === "waiting for an answer"
      ? [{ heading: null, rows: put.filter((r) => r.status === "asked") }]
      : show === "parked"
        ? [{ heading: null, rows: put.filter((r) => r.status === "parked") }]
        : show === "came back"
          ? byOrder(
              waiting.filter((r) => r.returnedAt !== null),
              order,
            )
          : show === "near its promise"
            ? byOrder(waiting.filter(isNear), order)
            : show === "judged"
              ? []
              : [...byOrder(waiting, order), { heading: "Put aside: asked or parked", rows: put }];
  return groups.filter((g) => g.rows.length > 0);
}

function byOrder(rows: QueueRow[], order: DeskOrder): DeskGroup[] {
  if (order === "oldest first") return [{ heading: null, rows }];
  // By the day and hour they are due: hours left are of different kinds, by the clock and of work.
  const due = (row: QueueRow) => row.promise?.state.dueAt ?? Infinity;
  const nearest = rows.toSorted((a, b) =>
    due(a) === due(b) ? a.receivedAt - b.receivedAt : due(a) - due(b),
  );
  return [
    ...STANDINGS.map(([standing, heading]) => ({
      heading,
      rows: nearest.filter((r) => r.promise?.state.standing === standing),
    })),
    { heading: "No promise", rows: nearest.filter((r) => r.promise === null) },
  ];
}

/** The parts of the product that reports on the desk are about, with how many are about each. */
export function partsOnDesk({
  queue,
  aside,
}: Pick<DeskView, "queue" | "aside">): [string, number][] {
  const counts = new Map<string, number>();
  for (const name of [...queue, ...aside].flatMap(({ parts }) => parts))
    counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].toSorted(([a, n], [b, m]) => m - n || (a < b ? -1 : 1));
}
