import { and, eq, isNull, sql } from "drizzle-orm";
import { addressFor } from "@/core/ship/environment";
import type { ShowDraft } from "@/core/ship/acceptance/acceptance-view";
import type { TestShown } from "@/core/ship/acceptance/shown-item";
import { noteWords } from "@/core/ship/release/release-notes";
import { database, type Reader } from "@/db/connection";
import { itemFile, releaseNote, testPicture, testRun } from "@/db/schema";
import { namedByKeys } from "../../item/list/named";
import { readRows } from "../../item/list/read";
import { isPicture } from "../../files/kind";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { environmentsOf } from "../environments";
import { readPresence } from "../presence";
import { testedItems, whereToTest } from "../testing/tested-items";

const MOST_KEYS = 40;
const MOST_PICTURES = 24;

/**
 * Items as they could be shown: what was done by the words for outside, where there are any; how it is seen and
 * where; what was tested; pictures that may go with it. Nothing of it goes out by itself. @throws Refused
 */
export async function readDrafts(
  viewer: Viewer,
  projectKey: string,
  { items: asked }: { items: string },
): Promise<ShowDraft[]> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "edit item" });
  const { id: projectId } = access.project;
  const keys = asked.split(",").filter(Boolean).slice(0, MOST_KEYS);
  const seen = await namedByKeys(viewer, keys);
  const named = keys.flatMap((key) => {
    const one = seen.get(key);
    return one && one.projectId === projectId && !one.withdrawn ? [one] : [];
  });
  const ids = named.map(({ id }) => id);
  const [rows, notes, tested, presence, environments, pictures] = await Promise.all([
    readRows(reader, { ids }),
    notesOf(reader, ids),
    testsShown(reader, ids),
    readPresence(reader, ids),
    environmentsOf(reader, projectId),
    picturesOf(reader, ids),
  ]);
  return named.flatMap(({ id, key }): ShowDraft[] => {
    const row = rows.find((one) => one.id === id);
    if (!row) return [];
    const there = whereToTest(id, presence, environments);
    return [
      {
        ...{ itemId: id, key, restricted: row.restricted },
        title: noteWords({ words: notes.get(id) ?? "", title: row.title }),
        how: row.howToTest ?? "",
        address: (there && addressFor(there, key)) ?? "",
        tested: tested.get(id) ?? [],
        pictures: pictures
          .filter(({ itemId }) => itemId === id)
          .map(({ itemId: _, ...picture }) => picture),
      },
    ];
  });
}

/** What the notes of a release say of some items, by the items' ids. */
async function notesOf(reader: Reader, ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({ itemId: releaseNote.itemId, words: releaseNote.words })
    .from(releaseNote)
    .where(sql`${releaseNote.itemId} = any(${sql.param([...ids])}::uuid[])`)
    .orderBy(releaseNote.at);
  return new Map(rows.map(({ itemId, words }) => [itemId, words]));
}

/** What was tested of some items, with what result, by the items' ids: what passed or failed. */
export async function testsShown(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, TestShown[]>> {
  const tested = await testedItems(reader, itemIds);
  return new Map(
    [...tested].map(([id, { cases }]) => [
      id,
      cases.flatMap(({ now, last, stale }): TestShown[] =>
        last === null || last.verdict === null || last.verdict === "blocked"
          ? []
          : [
              {
                ...{ title: now.title, passed: last.verdict === "passed" },
                ...{ at: last.at, build: last.build, changedSince: stale !== null },
              },
            ],
      ),
    ]),
  );
}

async function picturesOf(reader: Reader, ids: readonly string[]) {
  if (ids.length === 0) return [];
  const some = sql`${sql.param([...ids])}::uuid[]`;
  const files = await reader
    .select()
    .from(itemFile)
    .where(and(sql`${itemFile.itemId} = any(${some})`, isNull(itemFile.removedAt)))
    .orderBy(itemFile.at)
    .limit(MOST_PICTURES * ids.length);
  const ofRuns = await reader
    .select({ picture: testPicture, itemId: testRun.itemId, run: testRun.number })
    .from(testPicture)
    .innerJoin(testRun, eq(testRun.id, testPicture.runId))
    .where(and(sql`${testRun.itemId} = any(${some})`, isNull(testPicture.removedAt)))
    .orderBy(testPicture.at)
    .limit(MOST_PICTURES * ids.length);
  return [
    ...files
      .filter(({ mediaType, sha256 }) => isPicture(mediaType) && sha256 !== null)
      .map(({ id, itemId, name, width, height }) => ({
        ...{ id, itemId, name, width, height, from: "item" as const, run: null },
      })),
    ...ofRuns.map(({ picture: { id, name, width, height }, itemId, run }) => ({
      ...{ id, itemId: itemId!, name, width, height, from: "run" as const, run },
    })),
  ];
}
