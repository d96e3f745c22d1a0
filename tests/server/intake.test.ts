import { randomUUID } from "node:crypto";
import { and, eq, inArray } from "drizzle-orm";
import { database } from "@/db/connection";
import { item, mailOut, ownField, report, reportFollower, reportMessage } from "@/db/schema";
import { readDesk } from "@/server/intake/desk";
import { dayWords } from "@/core/calendar/day-words";
import { answerDay } from "@/server/intake/report-promises";
import { readReport } from "@/server/intake/read-report";
import { triageReport, undoVerdict } from "@/server/intake/triage-report";
import { LARGEST_FILE, MOST_FILES } from "@/core/intake/file-limits";
import { type FormFaults, submitForm } from "@/server/intake/forms";
import {
  addFiles,
  followReport,
  privateFile,
  readPrivatePage,
  sayMore,
} from "@/server/intake/private-page";
import { verdictBody } from "@/core/intake/request";
import { checkItems } from "@/server/item/check";
import { PLAIN_FIELD } from "@/core/item/own-field";
import { readItem } from "@/server/item/read";
import { countUse } from "@/server/rate-limit";
import { settle } from "./setup/events";
import { wakeParkedReports } from "@/server/intake/follow-up";
import { move, refusalOf } from "./setup/board";
import { NOOR, TOMAS } from "./setup/people";
import { accepting, FORM, reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const PNG = Buffer.from("89504e470d0a1a0a0000000d49484452", "hex");
const named = (content: Buffer, name = "picture.png") => ({ name, content });
const ACCEPT = accepting({
  severity: "minor",
  priority: "low",
  teamId: "quayside",
  assigneeId: "noor",
  place: { at: "top" },
});

const drain = async () => {
  await settle();
};

describe("a report from outside", () => {
  test("gets a reference and a private page, with its files and own answers, and nothing internal on it", async () => {
    const { reference, token } = await submitForm({
      projectKey: "TIX",
      name: "report",
      raw: FORM,
      sent: [named(PNG), named(Buffer.from("Gate 4, 23:10"), "notes.txt")],
    });
    const page = await readPrivatePage(token);
    expect(page).toMatchObject({
      reference,
      title: FORM.title[0],
      awaitsAnswer: false,
      status: { headline: "Received" },
      wrote: {
        place: "Heron island",
        answers: [{ label: "Could you travel in the end?", value: "yes" }],
      },
    });
    expect(JSON.stringify(page)).not.toMatch(/saltmarsh\.example|itemId|tomas/i);
    expect(page.files.map(({ name, picture }) => ({ name, picture }))).toEqual([
      { name: "picture.png", picture: true },
      { name: "notes.txt", picture: false },
    ]);
    expect((await privateFile(token, page.files[0].id)).mediaType).toBe("image/png");
    const other = await sent();
    expect(await refusalOf(privateFile(other.token, page.files[0].id))).toBe("not found");
    expect(await refusalOf(privateFile(token, "../1"))).toBe("not found");
    expect(await refusalOf(readPrivatePage(reference))).toBe("not found");
    expect(
      await refusalOf(readPrivatePage(`${token.slice(0, -1)}${token.endsWith("A") ? "B" : "A"}`)),
    ).toBe("not found");
  });

  test("what is no file we take, too large, too many, or for a form that is closed or not there, is refused whole: no row is left", async () => {
    const before = (await database().select().from(report)).length;
    for (const content of [
      "<svg onload=alert(1)>",
      "#!/bin/sh\nrm -r /",
      "MZ\u0090\u0000",
      " <html><script>",
      "",
    ])
      expect(
        await refusalOf(
          submitForm({
            projectKey: "TIX",
            name: "report",
            raw: FORM,
            sent: [named(PNG), named(Buffer.from(content))],
          }),
        ),
      ).toBe("invalid");
    expect(
      await refusalOf(
        submitForm({
          projectKey: "TIX",
          name: "report",
          raw: FORM,
          sent: [named(Buffer.concat([PNG, Buffer.alloc(LARGEST_FILE)]))],
        }),
      ),
    ).toBe("invalid");
    expect(
      await refusalOf(
        submitForm({
          projectKey: "TIX",
          name: "report",
          raw: FORM,
          sent: Array.from({ length: MOST_FILES + 1 }, () => named(PNG)),
        }),
      ),
    ).toBe("invalid");
    expect(
      await refusalOf(submitForm({ projectKey: "NOPE", name: "report", raw: FORM, sent: [] })),
    ).toBe("not found");
    expect(
      await refusalOf(submitForm({ projectKey: "TIX", name: "nope", raw: FORM, sent: [] })),
    ).toBe("not found");
    expect(
      await refusalOf(
        submitForm({ projectKey: "TIX", name: "winter-survey", raw: FORM, sent: [] }),
      ),
    ).toBe("invalid");
    // members only: no public page
    expect(
      await refusalOf(submitForm({ projectKey: "TIDE", name: "report", raw: FORM, sent: [] })),
    ).toBe("not found");
    expect(await database().select().from(report)).toHaveLength(before);
  });

  test.each<[string, Record<string, string[]>, string]>([
    ["no title", { title: [" "] }, "title"],
    ["no text", { happened: [""] }, "happened"],
    ["a mail address that is none", { mail: ["anna at home"] }, "mail"],
    ["a title of 201 characters", { title: ["x".repeat(201)] }, "title"],
    ["a text of 10,001 characters", { happened: ["x".repeat(10_001)] }, "happened"],
    ["an answer that is not offered", { travelled: ["perhaps"] }, "travelled"],
  ])("%s is said at its question, and nothing is stored", async (_name, change, field) => {
    const before = (await database().select().from(report)).length;
    const faults = await submitForm({
      projectKey: "TIX",
      name: "report",
      raw: { ...FORM, ...change },
      sent: [],
    }).catch((error: FormFaults) => error.errors);
    expect(faults).toMatchObject([{ field }]);
    expect(await database().select().from(report)).toHaveLength(before);
  });

  test("is counted per address and window, in the database", async () => {
    const uses = await Promise.all(
      Array.from({ length: 50 }, () =>
        countUse({ key: "report 192.0.2.1", limit: 12, windowMs: 60000, now: 120000 }),
      ),
    );
    expect(uses.filter((u) => u.allowed)).toHaveLength(12);
    expect(
      (await countUse({ key: "report 192.0.2.2", limit: 12, windowMs: 60000, now: 120000 }))
        .allowed,
    ).toBe(true);
    expect(
      (await countUse({ key: "report 192.0.2.1", limit: 12, windowMs: 60000, now: 180000 }))
        .allowed,
    ).toBe(true);
  });
});

const STEPS = "Hold the phone to gate 4";

describe("verdicts", () => {
  test("accept makes an item at the chosen place; the requester hears of every step until it is done", async () => {
    const row = await sent();
    const { itemKey } = await verdictOn(row.id, ACCEPT);
    const view = await readItem(TOMAS, itemKey!);
    expect(view.item).toMatchObject({
      title: "Gate 4 hums",
      severity: "minor",
      teamId: "quayside",
      assigneeId: "noor",
      origin: "unplanned",
      place: "Heron island",
    });
    expect(view.reports).toMatchObject([{ reference: row.reference }]);
    expect((await readDesk(TOMAS, "TIX")).backlogTop[0].key).toBe(itemKey);
    for (const step of ["Ready", "Building", "Closed"]) {
      await move(NOOR, view.item.id, step, { outcome: "declined" });
      await drain();
    }
    const page = await readPrivatePage(row.token);
    expect(page.status.headline).toBe("Closed");
    expect(page.messages.map((m) => m.body.split(".")[0])).toEqual(
      ["Accepted", "Being worked on", "Being worked on", "Closed"].slice(1),
    );
  });

  test("what a form asks under the name of a field of the type stands in that field, and not twice", async () => {
    const telling = async () => {
      const { id } = await sent();
      await database().update(report).set({ reproduce: STEPS }).where(eq(report.id, id));
      return reportRow(id);
    };
    const row = await telling();
    const { label } = row.answers.find(({ questionId }) => questionId === "travelled")!;
    const of = { ...PLAIN_FIELD, projectId: "tix", typeIds: ["bug"] };
    const travelled = randomUUID();
    const steps = randomUUID();
    await database()
      .insert(ownField)
      .values([
        { ...of, id: travelled, name: label.replace("?", ""), kind: "yes or no", position: 70 },
        { ...of, id: steps, name: "Steps to reproduce", kind: "text", position: 71 },
      ]);
    const { itemKey } = await verdictOn(row.id, ACCEPT);
    const { item: made } = await readItem(TOMAS, itemKey!);
    expect(made.own).toMatchObject({ [travelled]: true, [steps]: STEPS });
    expect(made.description).toContain("It hums so loud");
    expect(made.description).not.toContain(label);
    expect(made.description).not.toContain(STEPS);
    const both = inArray(ownField.id, [travelled, steps]);
    await database().update(ownField).set({ removedAt: 1 }).where(both);
    const plain = await telling();
    const { item: other } = await readItem(TOMAS, (await verdictOn(plain.id, ACCEPT)).itemKey!);
    expect(other.description).toContain(label);
    expect(other.description).toContain(STEPS);
  });

  test("accept below a given item lands there", async () => {
    const [, second] = (await readDesk(TOMAS, "TIX")).backlogTop;
    const { itemKey } = await verdictOn(
      (await sent()).id,
      accepting({ ...ACCEPT.acceptance, place: { at: "below", itemId: second.id } }),
    );
    expect((await readDesk(TOMAS, "TIX")).backlogTop.map((b) => b.key)[2]).toBe(itemKey);
  });

  test("merge links both ways and keeps the requester attached; undo takes it apart", async () => {
    const row = await sent();
    const [target] = (await readDesk(TOMAS, "TIX")).backlogTop;
    const { verdictId } = await verdictOn(row.id, { kind: "merge", itemId: target.id });
    expect((await readItem(TOMAS, target.key)).reports.map((r) => r.reference)).toContain(
      row.reference,
    );
    expect((await readReport(TOMAS, row.id)).itemKey).toBe(target.key);
    expect((await readPrivatePage(row.token)).status.detail).toContain("Others have told us");
    await undoVerdict(TOMAS, row.id, verdictId);
    expect((await readItem(TOMAS, target.key)).reports.map((r) => r.reference)).not.toContain(
      row.reference,
    );
    expect((await readDesk(TOMAS, "TIX")).queue.map((q) => q.reference)).toContain(row.reference);
  });

  test("ask: the requester answers on their page, the report returns with its age; answering twice is refused", async () => {
    const row = await sent();
    const { verdictId } = await verdictOn(row.id, { kind: "ask", question: "Which night was it?" });
    expect(await readPrivatePage(row.token)).toMatchObject({
      awaitsAnswer: true,
      messages: [{ kind: "question", body: "Which night was it?" }],
    });
    await sayMore(row.token, "Saturday <b>night</b>");
    const back = (await readDesk(TOMAS, "TIX")).queue.find((q) => q.id === row.id)!;
    expect(back).toMatchObject({ receivedAt: row.receivedAt, returnedAt: expect.any(Number) });
    expect((await readReport(TOMAS, row.id)).messages.map((m) => m.body)).toEqual([
      "Which night was it?",
      "Saturday <b>night</b>",
    ]);
    // More is taken as well, and what became of the report by then stays.
    await sayMore(row.token, "It was at noon.");
    expect((await readReport(TOMAS, row.id)).messages.at(-1)?.body).toBe("It was at noon.");
    expect(await refusalOf(undoVerdict(TOMAS, row.id, verdictId))).toBe("conflict");
  });

  test("words and files are added at any time: to what waits, to what was declined, not by who only follows", async () => {
    const row = await sent();
    await sayMore(row.token, "It happened again today.");
    await addFiles(row.token, [named(PNG), named(Buffer.from("23:10"), "notes.txt")]);
    expect(await readReport(TOMAS, row.id)).toMatchObject({
      messages: [{ kind: "answer", body: "It happened again today." }],
      files: [{ name: "picture.png" }, { name: "notes.txt" }],
    });
    expect((await readPrivatePage(row.token)).files).toHaveLength(2);
    await verdictOn(row.id, { kind: "decline", reason: "It is meant to be so." });
    await sayMore(row.token, "But the sign says something else.");
    expect((await readDesk(TOMAS, "TIX")).queue.find((q) => q.id === row.id)).toMatchObject({
      returnedWhy: "answered",
    });
    await followReport(row.token, "second@post.saltmarsh.example");
    const [follower] = await database()
      .select()
      .from(reportFollower)
      .where(eq(reportFollower.reportId, row.id));
    expect(await refusalOf(sayMore(follower.token, "I as well."))).toBe("not for you");
    expect(await refusalOf(addFiles(follower.token, [named(PNG)]))).toBe("not for you");
    expect((await readPrivatePage(follower.token)).maySay).toBe(false);
    // Refused whole: no program, and no more than a report takes.
    for (const files of [
      [named(PNG), named(Buffer.from("MZ\u0090\u0000"))],
      Array.from({ length: MOST_FILES + 1 }, () => named(PNG)),
    ])
      expect(await refusalOf(addFiles(row.token, files))).toBe("invalid");
    const five = Array.from({ length: MOST_FILES }, () => named(PNG));
    for (let n = 0; n < 3; n++) await addFiles(row.token, five);
    expect(await refusalOf(addFiles(row.token, five))).toBe("invalid");
    expect((await readPrivatePage(row.token)).files).toHaveLength(17);
  });

  test("a receipt says by which day an answer was promised, and the page the same", async () => {
    const row = await sent();
    const day = await answerDay(database(), row.projectId, row, Date.now());
    expect(day).toMatch(/^\d{4}-\d\d-\d\d$/);
    const words = dayWords(day!, new Date().toISOString().slice(0, 10));
    const [letter] = await database().select().from(mailOut).where(eq(mailOut.reportId, row.id));
    expect(letter.body).toContain(`You will hear from us by ${words}:`);
    expect((await readPrivatePage(row.token)).status.detail).toBe(
      `You will hear from us by ${words}.`,
    );
    expect(await answerDay(database(), row.projectId, row, Date.now() + 1e11)).toBeNull();
  });

  test("an unanswered question can be taken back, and is gone from the requester's page", async () => {
    const row = await sent();
    const { verdictId } = await verdictOn(row.id, { kind: "ask", question: "A question too many" });
    await undoVerdict(TOMAS, row.id, verdictId);
    expect(await readPrivatePage(row.token)).toMatchObject({ awaitsAnswer: false, messages: [] });
    expect(
      await database().select().from(reportMessage).where(eq(reportMessage.reportId, row.id)),
    ).toHaveLength(1);
  });

  test("park: out of the queue until its day, then back by itself", async () => {
    const row = await sent();
    await verdictOn(row.id, { kind: "park", until: "2999-01-01", itemId: null });
    expect((await readDesk(TOMAS, "TIX")).queue.map((q) => q.id)).not.toContain(row.id);
    expect(await wakeParkedReports()).toBe(0);
    expect(await wakeParkedReports(Date.parse("2999-01-01T12:00:00Z"))).toBeGreaterThanOrEqual(1);
    expect((await readDesk(TOMAS, "TIX")).queue.map((q) => q.id)).toContain(row.id);
  });

  test("decline tells the requester why; undone, the report waits again", async () => {
    const row = await sent();
    const { verdictId } = await verdictOn(row.id, {
      kind: "decline",
      reason: "The gate belongs to the town.",
    });
    expect((await readPrivatePage(row.token)).status).toEqual({
      headline: "We will not do this",
      detail: "The gate belongs to the town.",
    });
    expect(await refusalOf(verdictOn(row.id, ACCEPT))).toBe("conflict");
    await undoVerdict(TOMAS, row.id, verdictId);
    expect((await readPrivatePage(row.token)).status.headline).toBe("Received");
  });

  test("undoing accept takes the item back from every list; not when work on it has started", async () => {
    const row = await sent();
    const first = await verdictOn(row.id, ACCEPT);
    await undoVerdict(TOMAS, row.id, first.verdictId);
    expect((await readDesk(TOMAS, "TIX")).backlogTop.map((b) => b.key)).not.toContain(
      first.itemKey,
    );
    const second = await verdictOn(row.id, ACCEPT);
    const { item: made } = await readItem(TOMAS, second.itemKey!);
    await move(NOOR, made.id, "Ready");
    expect(await refusalOf(undoVerdict(TOMAS, row.id, second.verdictId))).toBe("in use");
    await move(NOOR, made.id, "Backlog");
    await undoVerdict(TOMAS, row.id, second.verdictId);
    expect((await checkItems()).findings).toEqual([]);
  });

  test("two triagers judge at once: one verdict counts, the other is told; a verdict sent twice counts once", async () => {
    const row = await sent();
    const items = (await database().select().from(item).where(eq(item.title, "Gate 4 hums")))
      .length;
    const body = (commandId: string) => ({ commandId, seenVersion: 1, verdict: ACCEPT });
    const key = randomUUID();
    const results = await Promise.allSettled([
      triageReport(TOMAS, row.id, body(key)),
      triageReport(NOOR, row.id, body(randomUUID())),
      triageReport(TOMAS, row.id, body(key)),
    ]);
    expect(results.filter((r) => r.status === "fulfilled").length).toBeGreaterThanOrEqual(1);
    expect(
      await database()
        .select()
        .from(item)
        .where(and(eq(item.title, "Gate 4 hums"))),
    ).toHaveLength(items + 1);
  });

  test.each([
    { kind: "park", until: "tomorrow" },
    { kind: "decline", reason: " " },
    { kind: "ask", question: "" },
    { kind: "merge", itemId: "TIX-1" },
    { kind: "explode" },
  ])("does not parse: %j", (verdict) => {
    expect(
      verdictBody.safeParse({ commandId: randomUUID(), seenVersion: 1, verdict }).success,
    ).toBe(false);
  });
});

test("the desk shows the near-duplicates of the demo on top", async () => {
  const { queue } = await readDesk(TOMAS, "TIX");
  const pair = queue.filter((q) => /charged twice|Payment taken two times/.test(q.title));
  expect(pair).toHaveLength(2);
  const view = await readReport(TOMAS, pair[0].id);
  expect(view.similarReports[0].id).toBe(pair[1].id);
  const offline = await readReport(
    TOMAS,
    queue.find((q) => q.title.startsWith("Scanner at Gannet refuses"))!.id,
  );
  expect(offline.similar[0].title).toBe("Tickets bought offline are refused at Gannet quay");
});
