import { and, asc, eq, isNotNull, isNull } from "drizzle-orm";
import { foundQuery, lastOf } from "@/core/intake/found-report";
import { database } from "@/db/connection";
import { item, project, release, report } from "@/db/schema";
import { VERDICT_KINDS, type TriageFigures } from "@/core/intake/triage-figures";
import { readLearn } from "@/server/flow/read";
import { readDesk } from "@/server/intake/desk";
import { findReports, givenLately, reportByReference } from "@/server/intake/found-reports";
import { sayMore } from "@/server/intake/private-page";
import { readReport } from "@/server/intake/read-report";
import { undoVerdict } from "@/server/intake/triage-report";
import type { Viewer } from "@/server/people/viewer";
import { refusalOf } from "./setup/board";
import { ARTHUR, NOOR, OSKAR, TOMAS } from "./setup/people";
import { accepting, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const find = (asked: Record<string, unknown> = {}, viewer: Viewer = TOMAS) =>
  findReports(viewer, "TIX", foundQuery.parse(asked));
const references = async (asked: Record<string, unknown>, viewer?: Viewer) =>
  (await find(asked, viewer)).rows.map((r) => r.reference);

test("a report is found by reference, title, words and mail address, whatever became of it", async () => {
  const row = await sent({
    title: ["Turnstile sings at dusk"],
    happened: ["A whistling noise like a kettle, whenever the tide is low."],
    mail: ["Wilma.Oak@post.saltmarsh.example"],
  });
  const asked = [
    row.reference,
    row.reference.toLowerCase(),
    "turnstile SINGS",
    "whistles kettles",
    "wilma.oak@post.saltmarsh.example",
    "wilma.oak",
  ];
  for (const words of asked) expect(await references({ words })).toContain(row.reference);
  await verdictOn(row.id, { kind: "decline", reason: "It is meant to sing." });
  for (const words of asked) expect(await references({ words })).toContain(row.reference);
  expect((await find({ words: row.reference })).rows).toMatchObject([
    { id: row.id, status: "declined", verdict: { kind: "decline", by: "Tomas Kerr" } },
  ]);
  expect(await references({ words: "%" })).not.toContain(row.reference);
  expect(await references({ words: row.reference, way: "mail" })).toEqual([]);
});

test("without words all that was judged is found, the latest verdict first, page by page, each once", async () => {
  const row = await sent();
  expect(await references({})).not.toContain(row.reference);
  const { itemKey } = await verdictOn(row.id, accepting());
  const all: Awaited<ReturnType<typeof find>>["rows"] = [];
  for (;;) {
    const last = all.at(-1);
    const page = await find(last && { after: last.id, before: lastOf(last) });
    all.push(...page.rows);
    const judged = await database()
      .select({ status: report.status })
      .from(report)
      .innerJoin(project, eq(project.id, report.projectId))
      .where(eq(project.key, "TIX"));
    const of = judged.filter((r) => ["accepted", "merged", "declined"].includes(r.status)).length;
    expect(all.length + page.rest).toBe(of);
    if (page.rest === 0) break;
  }
  expect(new Set(all.map((r) => r.id)).size).toBe(all.length);
  expect(all[0]).toMatchObject({ reference: row.reference, status: "accepted", itemKey });
  const times = all.map(lastOf);
  expect(times).toEqual(times.toSorted((a, b) => b - a));
});

test("what came of a restricted item is found by nobody who may not see it; others find nothing at all", async () => {
  const row = await sent({ title: ["Anybody can read the crew list"] });
  const { itemKey } = await verdictOn(row.id, accepting({ restricted: true }));
  const [kept] = await database()
    .select({ restricted: item.restricted })
    .from(item)
    .where(eq(item.number, Number(itemKey!.slice(4))))
    .orderBy(asc(item.projectId));
  expect(kept.restricted).toBe(true);
  expect(await references({ words: row.reference })).toEqual([row.reference]);
  expect(await references({ words: row.reference }, NOOR)).toEqual([]);
  expect(await reportByReference(NOOR, row.reference)).toBeNull();
  expect(await reportByReference(TOMAS, row.reference.toLowerCase())).toEqual({
    id: row.id,
    projectKey: "TIX",
  });
  for (const stranger of [ARTHUR, OSKAR])
    expect(await refusalOf(find({ words: row.reference }, stranger))).toBe("not allowed");
  expect(await reportByReference(ARTHUR, row.reference)).toBeNull();
});

test("what was accepted says with which release it goes out, at the desk and where it is found", async () => {
  const row = await sent({ title: ["The winch counts twice"] });
  const { itemKey } = await verdictOn(row.id, accepting());
  const number = Number(itemKey!.slice(4));
  const put = (releaseId: string | null) =>
    database()
      .update(item)
      .set({ releaseId })
      .where(and(eq(item.projectId, "tix"), eq(item.number, number)));
  const goesOut = async () => (await find({ words: row.reference })).rows[0].goesOut;
  expect(await goesOut()).toBeNull();
  const [next] = await database()
    .select()
    .from(release)
    .where(and(isNull(release.releasedAt), isNotNull(release.dueOn)))
    .orderBy(asc(release.dueOn));
  await put(next.id);
  const told = { name: next.name, on: next.dueOn, out: false };
  expect(await goesOut()).toEqual(told);
  expect((await readReport(TOMAS, row.id)).goesOut).toEqual(told);
  await database().update(release).set({ releasedAt: Date.now() }).where(eq(release.id, next.id));
  expect(await goesOut()).toEqual({ ...told, out: true });
  await database().update(release).set({ releasedAt: null }).where(eq(release.id, next.id));
  await put(null);
});

test("one's own verdicts of today are undone in any order, also after another sitting; an answer ends that", async () => {
  const rows = [await sent(), await sent(), await sent()];
  const declined = { kind: "decline", reason: "Not ours." } as const;
  const first = await verdictOn(rows[0].id, declined);
  const second = await verdictOn(rows[1].id, declined, NOOR);
  const third = await verdictOn(rows[2].id, { kind: "ask", question: "When?" });
  const given = async () => (await readDesk(TOMAS, "TIX")).given.map((g) => g.verdictId);
  expect((await given()).slice(0, 2)).toEqual([third.verdictId, first.verdictId]);
  expect(await given()).not.toContain(second.verdictId);
  expect(await undoVerdict(TOMAS, rows[0].id, first.verdictId)).toMatchObject({
    reference: rows[0].reference,
    status: "unjudged",
  });
  expect(await given()).not.toContain(first.verdictId);
  await sayMore(rows[2].token, "At noon.");
  expect(await given()).not.toContain(third.verdictId);
  const queue = (await readDesk(TOMAS, "TIX")).queue;
  expect(queue.find((r) => r.id === rows[2].id)).toMatchObject({ returnedWhy: "answered" });
  expect(queue.find((r) => r.id === rows[0].id)).toMatchObject({ returnedWhy: null });
  // The next day they are found by the list and not by a key.
  const tomorrow = Date.now() + 24 * 3_600_000;
  const [{ projectId }] = await database()
    .select({ projectId: report.projectId })
    .from(report)
    .where(eq(report.id, rows[0].id));
  expect(await givenLately(TOMAS, projectId, tomorrow)).toEqual([]);
});

test("an accepted report that others were merged into is kept, and they are named", async () => {
  const [row, other] = [await sent(), await sent()];
  const accepted = await verdictOn(row.id, accepting());
  await verdictOn(other.id, { kind: "merge", itemId: accepted.itemId! });
  const refusal = await undoVerdict(TOMAS, row.id, accepted.verdictId).catch((e) => e.refusal);
  expect(refusal).toMatchObject({
    code: "in use",
    sentence: `${other.reference} was merged into its item.`,
  });
});

test("Learn counts what came in and the verdicts that stand, and the desk finds just those", async () => {
  const learn = async (viewer: Viewer = TOMAS) =>
    readLearn(viewer, "TIX", { period: "4 weeks" }, Date.now());
  const before = await learn();
  const rows = [await sent(), await sent(), await sent()];
  const declined = { kind: "decline", reason: "Not ours." } as const;
  await verdictOn(rows[0].id, { kind: "ask", question: "When?" });
  await verdictOn(rows[0].id, declined);
  const second = await verdictOn(rows[1].id, declined);
  await verdictOn(rows[2].id, { kind: "ask", question: "Where?" });
  await undoVerdict(TOMAS, rows[1].id, second.verdictId);
  const after = await learn();
  const more = (of: (figures: TriageFigures) => number) => of(after.triage!) - of(before.triage!);
  expect([more((t) => t.came), more((t) => t.judged)]).toEqual([3, 2]);
  expect([more((t) => t.byKind.decline), more((t) => t.byKind.ask)]).toEqual([1, 1]);
  expect(more((t) => t.byWay.form)).toBe(3);
  const { from, to } = after.period;
  for (const verdict of VERDICT_KINDS) {
    const found = await find({ verdict, since: from, until: to });
    expect([verdict, found.rows.length + found.rest]).toEqual([
      verdict,
      after.triage!.byKind[verdict],
    ]);
  }
  expect(after.triage!.median).not.toBeNull();
  expect((await learn(ARTHUR)).triage).toBeNull();
});
