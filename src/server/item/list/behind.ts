import { and, eq, inArray } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import {
  BEHIND_PAGE,
  BEHIND_SUMS,
  listOffers,
  type BehindAsked,
  type BehindView,
} from "@/core/item/list/behind";
import { labelOf } from "@/core/condition/vocabulary";
import { groupLabel } from "@/core/item/list/group";
import { valueWords } from "@/core/item/list/value-words";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { viewerAsker } from "../../condition/asker";
import { loadVocabulary } from "../../condition/vocabulary";
import { enterProject, seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid } from "../../refused";
import { snapshotOf } from "../rows";
import { withVisibleParents } from "../visible-parent";
import { readCursor } from "./cursor";
import { listKeys } from "./key";
import { readGroups, readListPage, readRows, type ListOf } from "./read";

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
  const reader = database();
  const { project } = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const [vocabulary, asker] = await Promise.all([
    loadVocabulary(reader, project.id),
    viewerAsker(reader, viewer, project, now),
  ]);
  const where = and(
    eq(item.projectId, project.id),
    inArray(item.id, ids),
    seesItem(reader, viewer),
  );
  const of: ListOf = { reader, where, asker: { ...asker, vocabulary, named: ids } };
  const query = { ...asked, sums: BEHIND_SUMS };
  const from = after === null ? null : readCursor(after, listKeys(query, of.asker).length);
  if (after !== null && from === null)
    throw invalid("This list does not go on there.", "Open it again from its beginning.");
  const [page, groups] = await Promise.all([
    readListPage(of, query, { after: from, limit: BEHIND_PAGE }),
    // What goes on has its groups from the first page.
    from === null ? readGroups(of, query) : [],
  ]);
  const rows = await withVisibleParents(reader, viewer, await readRows(reader, page));
  const [first] = query.sort;
  const sortedBy = new Map(page.ids.map((id, i) => [id, page.sortedBy[i]]));
  return {
    rows: rows.map((row) => ({
      ...cardOf(snapshotOf(row), projectKey),
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
