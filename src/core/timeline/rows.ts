import type { GroupKey } from "@/core/item/list/group";
import { LARGE_LEVEL } from "@/core/item/item-type";
import { grouped } from "@/core/item/grouped";
import { barOf, type Bar, type BarContext } from "./bars";
import type { TimelineItem, TimelineView } from "./view";

/** A line of a timeline: an item with its bar, or the name of a group. */
export type TimelineRow =
  | {
      kind: "item";
      item: TimelineItem;
      bar: Bar;
      /** How deep it stands under others. */
      depth: number;
      /** Whether what is under it is shown; null where nothing is. */
      open: boolean | null;
    }
  | { kind: "group"; key: GroupKey; label: string; count: number; open: boolean };

export interface TimelineRows {
  rows: TimelineRow[];
  /** Of everything that has days, whether its row is folded away or not. */
  bars: ReadonlyMap<string, Bar>;
  /** What nothing says the days of, by rank; finished ones left out. */
  undated: TimelineItem[];
}

/** The name of what stands under no large piece. */
export const ALONE = "alone";

/**
 * The lines of a timeline: large pieces with what is under them, and what is under none behind
 * them; or, where rows stand in groups, each group with its items.
 * @param inGroups whether a field says in which
 * @param turned what somebody has opened of what is usually closed, and the other way round: ids of
 *   items, and keys of groups
 */
export function timelineRows(
  { items, groups }: Pick<TimelineView, "items" | "groups">,
  context: BarContext,
  { inGroups, turned }: { inGroups: boolean; turned: ReadonlySet<string> },
): TimelineRows {
  const bars = new Map(
    items.flatMap((item): [string, Bar][] => {
      const bar = barOf(item, context);
      return bar ? [[item.id, bar]] : [];
    }),
  );
  const dated = items.filter(({ id }) => bars.has(id));
  const undated = items.filter(({ id, stateKind }) => !bars.has(id) && stateKind !== "finished");
  const row = (item: TimelineItem, depth: number, open: boolean | null): TimelineRow => ({
    kind: "item",
    item,
    bar: bars.get(item.id)!,
    depth,
    open,
  });
  if (inGroups) {
    const byGroup = grouped(dated, ({ group }) => group);
    return {
      undated,
      bars,
      rows: groups.flatMap(({ key, label }): TimelineRow[] => {
        const own = byGroup.get(key) ?? [];
        if (own.length === 0) return [];
        const open = !turned.has(`group ${key}`);
        const head: TimelineRow = { kind: "group", key, label, count: own.length, open };
        return [head, ...(open ? finishedLast(own).map((item) => row(item, 0, null)) : [])];
      }),
    };
  }
  const shown = new Set(dated.map(({ id }) => id));
  const under = grouped(
    dated.filter(({ parentId }) => parentId !== null && shown.has(parentId)),
    ({ parentId }) => parentId!,
  );
  const tree = (item: TimelineItem, depth: number): TimelineRow[] => {
    const children = under.get(item.id) ?? [];
    const open = children.length === 0 ? null : turned.has(item.id) !== isWhole(item);
    const own = row(item, depth, open);
    return open ? [own, ...children.flatMap((one) => tree(one, depth + 1))] : [own];
  };
  const tops = dated.filter(({ parentId }) => parentId === null || !shown.has(parentId));
  const large = tops.filter(({ level }) => level >= LARGE_LEVEL);
  const alone = finishedLast(tops.filter(({ level }) => level < LARGE_LEVEL));
  const open = !turned.has(`group ${ALONE}`);
  return {
    undated,
    bars,
    rows: [
      ...large.flatMap((item) => tree(item, 0)),
      ...(alone.length > 0 && large.length > 0
        ? [
            {
              kind: "group",
              key: ALONE,
              label: "Under no large piece",
              count: alone.length,
              open,
            } as const,
          ]
        : []),
      ...(open || large.length === 0 ? alone.flatMap((item) => tree(item, 0)) : []),
    ],
  };
}

const finishedLast = (items: readonly TimelineItem[]): TimelineItem[] => [
  ...items.filter(({ stateKind }) => stateKind !== "finished"),
  ...items.filter(({ stateKind }) => stateKind === "finished"),
];

/** What holds large pieces itself is open unless somebody closed it. */
const isWhole = ({ level }: TimelineItem) => level > LARGE_LEVEL;
