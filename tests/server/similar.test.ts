import { randomUUID } from "node:crypto";
import { and, eq, inArray, sql } from "drizzle-orm";
import { REPORT_EVENT } from "@/core/formats/report-event";
import { mostSimilar } from "@/core/intake/similarity";
import { stem } from "@/core/intake/stem";
import { database } from "@/db/connection";
import { item, mailOut, project, report, textMeaning } from "@/db/schema";
import { likelyItems, rarest, textOfCandidate } from "@/server/intake/candidates";
import { readDesk } from "@/server/intake/desk";
import { closeMeaningThread, meaningsAside } from "@/server/intake/meaning-thread";
import { makeMeanings } from "@/server/intake/meanings";
import { LABELLED_PAIRS } from "@demo/words/pairs";
import { itemIn, move, send } from "./setup/board";
import { post } from "./setup/events";
import { INES, NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
afterAll(closeMeaningThread);

const tix = async () => (await database().select().from(project).where(eq(project.id, "tix")))[0];

describe("candidates", () => {
  test.each<[string, string[], Record<string, number>, string[]]>([
    [
      "the rarest, until enough would be found",
      ["ticket", "gate", "hum", "quay", "night"],
      { ticket: 5_000, gate: 200, hum: 1, quay: 90, night: 60 },
      ["hum", "night", "quay"],
    ],
    [
      "at least three, however common",
      ["a", "b", "c", "d"],
      { a: 900, b: 800, c: 700, d: 600 },
      ["d", "c", "b"],
    ],
    ["all, where all are rare", ["x", "y"], {}, ["x", "y"]],
    ["none of nothing", [], {}, []],
  ])("%s", (_name, words, times, chosen) =>
    expect(rarest(words, (w) => times[w] ?? 0)).toEqual(chosen),
  );

  test("of the labelled pairs nearly every one is found among all the items of a project, in other words and with slips of the pen", async () => {
    const same = LABELLED_PAIRS.filter((p) => p.same).slice(0, 40);
    const ids: string[] = [];
    for (const pair of same) ids.push(await itemIn(NOOR, pair.other.title));
    await database().execute(sql`analyze item`);
    const project_ = await tix();
    let shown = 0;
    for (const [i, { one }] of same.entries()) {
      const found = await likelyItems(TOMAS, project_, one);
      expect(found.length).toBeLessThanOrEqual(400);
      const best = mostSimilar(
        { id: "", ...one },
        found.map((c) => textOfCandidate(c)),
        6,
      );
      if (best.some((b) => b.id === ids[i])) shown += 1;
    }
    // The figures of the whole set are in docs/benchmarks.md; here titles alone, among all of the
    // demo's items.
    expect(shown / same.length).toBeGreaterThan(0.6);
    const typed = await likelyItems(TOMAS, project_, {
      title: `${same[0].other.title.slice(0, -2)}xq`,
      body: "",
    });
    expect(typed.map((c) => c.id)).toContain(ids[0]);
  });

  test("the stems of the desk are those of the database's word index", async () => {
    const texts = (
      await database()
        .select({ title: item.title, description: item.description })
        .from(item)
        .limit(2_000)
    ).map((i) => `${i.title} ${i.description}`.toLowerCase());
    const all = [...new Set(texts.join(" ").match(/[a-z]{2,}/g))];
    const { rows } = await database().execute(
      sql`select word, (ts_lexize('english_stem', word))[1] as stem from unnest(${sql.param(all)}::text[]) as word`,
    );
    const known = (rows as { word: string; stem: string | null }[]).filter((r) => r.stem);
    expect(known.length).toBeGreaterThan(300);
    expect(known.filter((r) => stem(r.word) !== r.stem)).toEqual([]);
  });

  test("a text of quotes, operators and nothing else asks nothing dangerous", async () => {
    for (const title of [
      "'; drop table item; --",
      "!!! & | ( ) <-> :*",
      "",
      "''''",
      "\\",
      "a".repeat(10_000),
    ])
      expect(Array.isArray(await likelyItems(TOMAS, await tix(), { title, body: title }))).toBe(
        true,
      );
  });
});

describe("meanings", () => {
  const known = async () =>
    (
      await database()
        .select({ id: textMeaning.id, version: textMeaning.version, digest: textMeaning.digest })
        .from(textMeaning)
    ).length;

  test("are made of waiting reports and then of items, the newest first; a move needs no second reading, other words do", async () => {
    const id = await itemIn(NOOR, "The elevator at the ramp halts between two floors", "Ready");
    const waiting = await database().$count(
      report,
      inArray(report.status, ["unjudged", "asked", "parked"]),
    );
    for (let made = 0; made < waiting + 4; made += await makeMeanings(8));
    const row = async () =>
      (
        await database()
          .select()
          .from(textMeaning)
          .where(and(eq(textMeaning.about, "item"), eq(textMeaning.id, id)))
      )[0];
    const first = await row();
    expect(await known()).toBeGreaterThanOrEqual(waiting + 1);
    await move(NOOR, id, "Building");
    while ((await row()).version === first.version) await makeMeanings(4);
    expect((await row()).digest).toBe(first.digest);
    const [{ version }] = await database()
      .select({ version: item.version })
      .from(item)
      .where(eq(item.id, id));
    await send(NOOR, id, {
      kind: "edit",
      seenVersion: version,
      changes: { title: "Paint for the railing" },
    });
    while ((await row()).digest === first.digest) await makeMeanings(4);
    await send(NOOR, id, {
      kind: "edit",
      seenVersion: version + 1,
      changes: { title: "The elevator at the ramp halts between two floors" },
    });
    while ((await row()).digest !== first.digest) await makeMeanings(4);
    expect(Buffer.compare((await row()).meaning, first.meaning)).toBe(0);
  });

  test("find what shares no word with a report, for those who may see it", async () => {
    const [meaning] = await meaningsAside(["Lift stuck. We were trapped in the lift with a pram."]);
    const text = { title: "Lift stuck", body: "We were trapped in the lift with a pram.", meaning };
    const found = async (viewer: typeof TOMAS) =>
      (await likelyItems(viewer, await tix(), text)).find((c) =>
        c.title.startsWith("The elevator"),
      );
    const elevator = (await found(TOMAS))!;
    expect(
      (await likelyItems(TOMAS, await tix(), { ...text, meaning: null })).some(
        (c) => c.id === elevator.id,
      ),
    ).toBe(false);
    const [{ version }] = await database()
      .select({ version: item.version })
      .from(item)
      .where(eq(item.id, elevator.id));
    await send(INES, elevator.id, {
      kind: "edit",
      seenVersion: version,
      changes: { restricted: true, assigneeId: "noor" },
    });
    expect(await found(TOMAS)).toBeUndefined();
  });
});

describe("reports of other programs", () => {
  const event = (data: object, id: string = randomUUID()) => ({
    specversion: "1.0",
    id,
    source: "/gate/4",
    type: REPORT_EVENT,
    data,
  });

  test("stand in the queue with their way in, once, and who is named hears of it", async () => {
    const id = randomUUID();
    const { reports, passedOver } = await post(
      event(
        {
          title: "Motor of gate 4 is hot",
          happened: "82 degrees",
          place: "Gate 4",
          mail: "workshop@post.saltmarsh.example",
        },
        id,
      ),
    );
    expect([reports.length, passedOver]).toEqual([1, 0]);
    expect(await post(event({ title: "Motor of gate 4 is hot" }, id))).toMatchObject({
      reports: [],
      passedOver: 1,
    });
    const [row] = await database().select().from(report).where(eq(report.reference, reports[0]));
    expect(row).toMatchObject({
      projectId: "tix",
      way: "event",
      title: "Motor of gate 4 is hot",
      place: "Gate 4",
    });
    expect((await readDesk(TOMAS, "TIX")).queue.find((q) => q.id === row.id)?.way).toBe("event");
    expect(
      (await database().select().from(mailOut).where(eq(mailOut.reportId, row.id))).map(
        (m) => m.recipient,
      ),
    ).toEqual(["workshop@post.saltmarsh.example"]);
  });

  test("a bad one among several leaves nothing of any", async () => {
    const before = await database().$count(report);
    await expect(post(event({ title: "Good" }), event({ title: "" }))).rejects.toThrow();
    expect(await database().$count(report)).toBe(before);
  });
});
