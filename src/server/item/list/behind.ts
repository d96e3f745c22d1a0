import { cardOf } from "@/core/board/card";
import {
  BEHIND_PAGE,
  BEHIND_SUMS,
  listOffers,
  type BehindAsked,
  type BehindView,
} from "@/core/item/list/behind";
import { amountsOver } from "@/core/item/amount";
import { labelOf } from "@/core/condition/vocabulary";
import { groupLabel } from "@/core/item/list/group";
import { valueWords } from "@/core/item/list/value-words";
import type { Viewer } from "../../people/viewer";
import { snapshotOf } from "../rows";
import { withVisibleOthers } from "../visible-others";
import { enterList, knowing, namedOf, placeIn } from "./enter";
import { readGroups, readListPage, readRows } from "./read";

/**
 * The items behind a figure of one project, as far as somebody may see them; ids that are not in it
 * are left out. Without a sorting they stand as the figure names them.
 */
export async function readBehind(
  viewer: Viewer,
  projectKey: string,
  { ids, after, at, ...asked }: BehindAsked,
  now = at ?? Date.now(),
): Promise<BehindView> {
  const entered = await enterList(viewer, projectKey, now);
  const facts = [...asked.sort.map(({ fact }) => fact), ...(asked.group ? [asked.group] : [])];
  const of = namedOf({ ...entered, seen: await knowing(entered, facts) }, ids);
  const { reader, asker } = of;
  const { vocabulary } = asker;
  // Sizes of several projects are not added up.
  const amounts = amountsOver(vocabulary);
  const query = { ...asked, sums: BEHIND_SUMS.filter((fact) => amounts.includes(fact)) };
  const from = placeIn(of, query, after);
  const [page, groups] = await Promise.all([
    readListPage(of, query, { after: from, limit: BEHIND_PAGE }),
    // What goes on has its groups from the first page.
    from === null ? readGroups(of, query) : [],
  ]);
  const rows = await withVisibleOthers(reader, viewer, await readRows(reader, page));
  const [first] = query.sort;
  const sortedBy = new Map(page.ids.map((id, i) => [id, page.sortedBy[i]]));
  return {
    rows: rows.map((row) => ({
      ...cardOf(snapshotOf(row), entered.ground.keyOf(row.projectId)),
      stateName: labelOf("stateId", row.stateId, vocabulary),
      sortedBy: first ? valueWords(first.fact, sortedBy.get(row.id) ?? null, vocabulary) : null,
    })),
    groups: groups.map(({ key, ...group }) => ({
      ...group,
      label: query.group === null ? "" : groupLabel(query.group, key, vocabulary),
    })),
    next: page.next,
    at: now,
    ...listOffers(vocabulary),
  };
}
