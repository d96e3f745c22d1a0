import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { REPORT_EVENT } from "@/core/formats/report-event";
import { mostSimilar } from "@/core/intake/similarity";
import { database } from "@/db/connection";
import { mailOut, project, report } from "@/db/schema";
import { likelyItems, rarest, textOfCandidate } from "@/server/intake/candidates";
import { readDesk } from "@/server/intake/desk";
import { LABELLED_PAIRS } from "@demo/words/pairs";
import { itemIn } from "./setup/board";
import { post } from "./setup/events";
import { NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
jest.setTimeout(60_000);

const tix = async () => (await database().select().from(project).where(eq(project.id, "tix")))[0];

describe("candidates", () => {
  test.each<[string, string[], Record<string, number>, string[]]>([
    ["the rarest, until enough would be found", ["ticket", "gate", "hum", "quay", "night"], { ticket: 5_000, gate: 200, hum: 1, quay: 90, night: 60 }, ["hum", "night", "quay"]],
    ["at least three, however common", ["a", "b", "c", "d"], { a: 900, b: 800, c: 700, d: 600 }, ["d", "c", "b"]],
    ["all, where all are rare", ["x", "y"], {}, ["x", "y"]],
    ["none of nothing", [], {}, []],
  ])("%s", (_name, words, times, chosen) => expect(rarest(words, (w) => times[w] ?? 0)).toEqual(chosen));

  test("of the labelled pairs nearly every one is found among all the items of a project, in other words and with slips of the pen", async () => {
    const same = LABELLED_PAIRS.filter((p) => p.same).slice(0, 40);
    const ids: string[] = [];
    for (const pair of same) ids.push(await itemIn(NOOR, pair.other.title));
    await database().execute(sql`analyze item`);
    const project_ = await tix();
    let shown = 0;
    for (const [i, { one }] of same.entries()) {
      const found = await likelyItems(TOMAS, project_, one);
      expect(found.length).toBeLessThanOrEqual(360);
      const best = mostSimilar({ id: "", ...one }, found.map(textOfCandidate), 6);
      if (best.some((b) => b.id === ids[i])) shown += 1;
    }
    // The figures of the whole set are in docs/benchmarks.md; here titles alone, among all of the demo's items.
    expect(shown / same.length).toBeGreaterThan(0.6);
    const typed = await likelyItems(TOMAS, project_, { title: `${same[0].other.title.slice(0, -2)}xq`, body: "" });
    expect(typed.map((c) => c.id)).toContain(ids[0]);
  });

  test("a text of quotes, operators and nothing else asks nothing dangerous", async () => {
    for (const title of ["'; drop table item; --", "!!! & | ( ) <-> :*", "", "''''", "\\", "a".repeat(10_000)]) expect(Array.isArray(await likelyItems(TOMAS, await tix(), { title, body: title }))).toBe(true);
  });
});

describe("reports of other programs", () => {
  const event = (data: object, id: string = randomUUID()) => ({ specversion: "1.0", id, source: "/gate/4", type: REPORT_EVENT, data });

  test("stand in the queue with their way in, once, and who is named hears of it", async () => {
    const id = randomUUID();
    const { reports, passedOver } = await post(event({ title: "Motor of gate 4 is hot", happened: "82 degrees", place: "Gate 4", mail: "workshop@post.saltmarsh.example" }, id));
    expect([reports.length, passedOver]).toEqual([1, 0]);
    expect(await post(event({ title: "Motor of gate 4 is hot" }, id))).toMatchObject({ reports: [], passedOver: 1 });
    const [row] = await database().select().from(report).where(eq(report.reference, reports[0]));
    expect(row).toMatchObject({ projectId: "tix", way: "event", title: "Motor of gate 4 is hot", place: "Gate 4" });
    expect((await readDesk(TOMAS, "TIX")).queue.find((q) => q.id === row.id)?.way).toBe("event");
    expect((await database().select().from(mailOut).where(eq(mailOut.reportId, row.id))).map((m) => m.recipient)).toEqual(["workshop@post.saltmarsh.example"]);
  });

  test("a bad one among several leaves nothing of any", async () => {
    const before = await database().$count(report);
    await expect(post(event({ title: "Good" }), event({ title: "" }))).rejects.toThrow();
    expect(await database().$count(report)).toBe(before);
  });
});
