import type { AskedAt, AskedItem } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { groupOf, groupSortKey, type GroupKey } from "./group";
import { compareInList, compareKeys } from "./order";
import { groupsFall, type ListQuery } from "./query";
import { summaryOf, type Summary } from "./sums";

/** Some items of a list under one head, with what they come to. */
export interface ListGroup {
  key: GroupKey;
  count: number;
  /** In the order of the query's sums. */
  sums: Summary[];
}

export interface Arranged {
  /** One group with everything where the list is not grouped. */
  groups: ListGroup[];
  /** The items in order, group after group. */
  items: AskedItem[];
}

/** Items as a list shows them: in its order and its groups, each with its sums. */
export function arrange(
  items: readonly AskedItem[],
  query: ListQuery,
  { vocabulary, ...at }: AskedAt & { vocabulary: Vocabulary },
): Arranged {
  const { group } = query;
  const keyOf = (asked: AskedItem) => (group === null ? null : groupOf(group, asked, at));
  const members = new Map<GroupKey, AskedItem[]>();
  if (group === null) members.set(null, []);
  for (const asked of items) {
    const key = keyOf(asked);
    const known = members.get(key);
    if (known) known.push(asked);
    else members.set(key, [asked]);
  }
  const place = (key: GroupKey) => (group === null ? null : groupSortKey(group, key, vocabulary));
  const falling = groupsFall(query);
  const keys = [...members.keys()].sort(
    (a, b) => compareKeys(place(a), place(b), falling) || compareKeys(a, b),
  );
  const inOrder = compareInList(query, vocabulary, at);
  return {
    groups: keys.map((key) => ({
      key,
      count: members.get(key)!.length,
      sums: query.sums.map((fact) => summaryOf(fact, members.get(key)!, at)),
    })),
    items: keys.flatMap((key) => members.get(key)!.sort(inOrder)),
  };
}
