import { and, desc, eq } from "drizzle-orm";
import type { Condition } from "@/core/condition/condition";
import { labelOf } from "@/core/condition/vocabulary";
import { partsSuggested } from "@/core/intake/part-suggestion";
import { PLAIN_LIST, type Sort } from "@/core/item/list/query";
import {
  LATELY_DAYS,
  PART_LINES,
  type PartItems,
  type PartView,
} from "@/core/item/terms/part-view";
import { termNamed } from "@/core/item/terms/view";
import { database } from "@/db/connection";
import { item, report } from "@/db/schema";
import { enterProject, seesReport } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { notFound } from "../../refused";
import { enterList, narrowed, type EnteredList } from "../list/enter";
import { readListPage, readRows } from "../list/read";
import { readTerms } from "./read";

/** So many reports in the queue are read for what they are about. */
const MOST_READ = 200;

/** What there is about a part of the product. @throws Refused where there is no such part */
export async function readPart(
  viewer: Viewer,
  projectKey: string,
  name: string,
  now = Date.now(),
): Promise<PartView> {
  const access = await enterProject({
    reader: database(),
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const [{ terms }, entered] = await Promise.all([
    readTerms(viewer, projectKey),
    enterList(viewer, projectKey, now),
  ]);
  const part = termNamed(terms, "part", name);
  if (!("described" in part)) throw notFound("part");
  const list = (more: Condition, sort: Sort[]) =>
    itemsOf(entered, { kind: "all", of: [about(name), more] }, sort);
  const [open, came, finished, reports] = await Promise.all([
    list(NOT_FINISHED, []),
    list(since("daysSinceCreated"), [{ fact: "daysSinceCreated", descending: false }]),
    list({ kind: "all", of: [FINISHED, since("daysInState")] }, [
      { fact: "daysInState", descending: false },
    ]),
    access.may("read intake") ? reportsAbout(viewer, access.project.id, name, terms) : [],
  ]);
  const people = entered.seen.asker.vocabulary.people;
  const { key, zone } = access.project;
  return {
    project: { key, name: access.project.name, zone },
    part,
    owner: people.find(({ id }) => id === part.ownerId)?.name ?? null,
    open,
    came,
    finished,
    reports,
  };
}

const about = (value: string): Condition => ({
  kind: "compare",
  fact: "parts",
  op: "contains",
  value,
});
const FINISHED: Condition = { kind: "compare", fact: "stateKind", op: "is", value: "finished" };
const NOT_FINISHED: Condition = { kind: "not", of: FINISHED };
const since = (fact: "daysSinceCreated" | "daysInState"): Condition => ({
  kind: "compare",
  fact,
  op: "at most",
  value: LATELY_DAYS,
});

async function itemsOf(
  entered: EnteredList,
  condition: Condition,
  sort: readonly Sort[],
): Promise<PartItems> {
  const of = await narrowed(entered, condition, {
    board: null,
    facts: sort.map(({ fact }) => fact),
  });
  const { vocabulary } = of.asker;
  const [page, count] = await Promise.all([
    readListPage(of, { ...PLAIN_LIST, sort }, { after: null, limit: PART_LINES }),
    database().$count(item, of.where),
  ]);
  const rows = await readRows(of.reader, page);
  const items = rows.map(({ id, projectId, number, title, typeId, stateId, assigneeId }) => ({
    id,
    key: `${entered.ground.keyOf(projectId)}-${number}`,
    title,
    typeId,
    stateName: labelOf("stateId", stateId, vocabulary),
    assignee: vocabulary.people.find((person) => person.id === assigneeId)?.name ?? null,
  }));
  return { items, count };
}

/** Reports in the queue that are about a part, as somebody said, or else by their words or place. */
async function reportsAbout(
  viewer: Viewer,
  projectId: string,
  name: string,
  terms: Parameters<typeof partsSuggested>[1],
): Promise<PartView["reports"]> {
  const db = database();
  const rows = await db
    .select({
      id: report.id,
      reference: report.reference,
      title: report.title,
      happened: report.happened,
      place: report.place,
      parts: report.parts,
      receivedAt: report.receivedAt,
    })
    .from(report)
    .where(
      and(eq(report.projectId, projectId), eq(report.status, "unjudged"), seesReport(db, viewer)),
    )
    .orderBy(desc(report.receivedAt))
    .limit(MOST_READ);
  return rows.flatMap(({ happened, place, parts, ...row }) => {
    if (parts !== null) return parts.includes(name) ? [{ ...row, why: "it was said so" }] : [];
    const found = partsSuggested({ title: row.title, happened, place }, terms).find(
      (suggestion) => suggestion.name === name,
    );
    return found ? [{ ...row, why: found.why }] : [];
  });
}
