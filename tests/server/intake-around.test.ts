import { randomUUID } from "node:crypto";
import { and, count, eq, isNull } from "drizzle-orm";
import { FIRST_FORM, PART_QUESTIONS, type FormQuestion } from "@/core/intake/form";
import { database } from "@/db/connection";
import {
  formAttempt,
  item,
  mailOut,
  membership,
  report,
  reportFollower,
  reportVerdict,
} from "@/db/schema";
import { readBoard } from "@/server/board/read";
import { readLearn } from "@/server/flow/read";
import { PRESENT_MS, readDesk } from "@/server/intake/desk";
import { readReport } from "@/server/intake/read-report";
import { forgetAttempts, keepAttempt, readAttempt } from "@/server/intake/form-attempt";
import { editForm, publicForm, publicForms, readForms, submitForm } from "@/server/intake/forms";
import { triageReport, takeApart, undoVerdict } from "@/server/intake/triage-report";
import { knownProblemsLike, publishKnown } from "@/server/intake/known";
import { openOnDesk } from "@/server/intake/presence";
import { followReport, privateFile, readPrivatePage } from "@/server/intake/private-page";
import { recordReproduction } from "@/server/intake/reproductions";
import { sayParts } from "@/server/intake/say-parts";
import { editRules, loadRules } from "@/server/intake/rules";
import { readWorth } from "@/server/intake/worth";
import { findItems } from "@/server/find/items";
import { readItem } from "@/server/item/read";
import { settle } from "./setup/events";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { ARTHUR, GRETA, INES, IVO, NOOR, TOMAS } from "./setup/people";
import { accepting, FORM, reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const keyOf = async (id: string) =>
  `TIX-${(await database().select({ n: item.number }).from(item).where(eq(item.id, id)))[0].n}`;
const drain = async () => {
  await settle();
};

describe("forms", () => {
  const own = (id: string, change: Partial<FormQuestion> = {}): FormQuestion => ({
    id,
    fills: null,
    kind: "yes or no",
    label: "Is it urgent?",
    help: "",
    required: false,
    options: [],
    shownIf: null,
    ...change,
  });
  const form = async (slug: string) =>
    (await readForms(INES, "TIX")).forms.find((f) => f.slug === slug)!;

  test("made closed, opened, filled in by anybody, closed again: closed forms take nothing and are not listed", async () => {
    const definition = {
      ...FIRST_FORM,
      title: "Lost and found",
      questions: [
        PART_QUESTIONS.title,
        own("urgent", { required: true }),
        own("why", {
          kind: "short text",
          label: "Why?",
          shownIf: { questionId: "urgent", is: "yes" },
        }),
        PART_QUESTIONS.mail,
      ],
      thanks: "We look on Mondays.",
      lands: { teamId: "quayside", typeId: "request" },
    };
    const { id } = await editForm(INES, "TIX", { kind: "add", slug: "lost", definition });
    const listed = async () => (await publicForms("TIX")).forms.map((f) => f.slug);
    expect(await listed()).not.toContain("lost");
    const answers = {
      title: ["A red cap"],
      urgent: ["no"],
      why: ["sent all the same"],
      mail: ["cap@post.saltmarsh.example"],
      status: ["accepted"],
      teamId: ["ticketing"],
    };
    expect(
      await refusalOf(submitForm({ projectKey: "TIX", name: "lost", raw: answers, sent: [] })),
    ).toBe("invalid");
    await editForm(INES, "TIX", { kind: "change", id, seenVersion: 1, open: true });
    expect(await listed()).toContain("lost");
    const { token } = await submitForm({ projectKey: "TIX", name: "lost", raw: answers, sent: [] });
    const [row] = await database().select().from(report).where(eq(report.token, token));
    // What was not asked is not kept, whatever was sent for it; where it lands is the form's to
    // say.
    expect(row).toMatchObject({
      title: "A red cap",
      status: "unjudged",
      teamId: "quayside",
      answers: [{ questionId: "urgent", value: "no" }],
    });
    expect(await readReport(TOMAS, row.id)).toMatchObject({ typeId: "request" });
    const [receipt] = await database().select().from(mailOut).where(eq(mailOut.reportId, row.id));
    expect(receipt.body).toContain("We look on Mondays.");
    expect((await form("lost")).lately).toBe(1);
    await editForm(INES, "TIX", { kind: "change", id, seenVersion: 2, open: false });
    expect(await publicForm("TIX", "lost")).toMatchObject({ open: false });
    await editForm(INES, "TIX", { kind: "remove", id });
    expect(await refusalOf(publicForm("TIX", "lost"))).toBe("not found");
    expect((await readReport(TOMAS, row.id)).report.answers).toHaveLength(1);
    await editForm(INES, "TIX", { kind: "bring back", id });
    expect((await form("lost")).definition.title).toBe("Lost and found");
  });

  test("two who change one form: the second is told and nothing is lost; two forms do not share an address", async () => {
    const { id, version, definition } = await form("groups");
    await editForm(INES, "TIX", {
      kind: "change",
      id,
      seenVersion: version,
      definition: { ...definition, intro: "Hello." },
    });
    expect(
      await refusalOf(
        editForm(GRETA, "TIX", {
          kind: "change",
          id,
          seenVersion: version,
          definition: { ...definition, intro: "Other." },
        }),
      ),
    ).toBe("conflict");
    expect((await form("groups")).definition.intro).toBe("Hello.");
    expect(
      await refusalOf(editForm(INES, "TIX", { kind: "add", slug: "groups", definition })),
    ).toBe("invalid");
    expect(await refusalOf(editForm(NOOR, "TIX", { kind: "remove", id }))).toBe("not allowed");
  });
});

describe("known problems", () => {
  test("offered to people outside in their own words; who adds themselves is merged and told; restricted and finished ones are never offered", async () => {
    const id = await itemIn(NOOR, "TLS handshake of turnstile firmware 7 fails", "Ready");
    const offered = async () =>
      (await knownProblemsLike("TIX", "The gate at Gannet does not open with my ticket")).map(
        (k) => k.id,
      );
    expect(await offered()).not.toContain(id);
    await publishKnown(TOMAS, id, { words: "Gates at Gannet quay do not open" });
    expect(
      await knownProblemsLike("TIX", "The gate at Gannet does not open with my ticket"),
    ).toContainEqual({ id, words: "Gates at Gannet quay do not open" });
    expect(await knownProblemsLike("TIDE", "gate")).toEqual([]);
    expect((await readItem(NOOR, await keyOf(id))).knownAs).toBe(
      "Gates at Gannet quay do not open",
    );

    const { token } = await submitForm({
      projectKey: "TIX",
      name: "report",
      raw: FORM,
      sent: [],
      joins: id,
    });
    expect(await readPrivatePage(token)).toMatchObject({
      status: { detail: expect.stringContaining("Others have told us") },
    });
    await expect(
      submitForm({ projectKey: "TIX", name: "report", raw: FORM, sent: [], joins: randomUUID() }),
    ).rejects.toMatchObject({
      refusal: { code: "invalid" },
    });
    await expect(
      submitForm({ projectKey: "TIX", name: "report", raw: FORM, sent: [], joins: "1' or '1'='1" }),
    ).rejects.toMatchObject({
      refusal: { code: "invalid" },
    });

    await send(INES, id, {
      kind: "edit",
      seenVersion: (await database().select().from(item).where(eq(item.id, id)))[0].version,
      changes: { restricted: true },
    });
    expect(await offered()).not.toContain(id);
    expect(await refusalOf(publishKnown(INES, id, { words: "x" }))).toBe("invalid");
    expect(await refusalOf(publishKnown(ARTHUR, await itemIn(NOOR, "x"), { words: "x" }))).not.toBe(
      "nothing refused",
    );
  });
});

describe("merging", () => {
  test("both ways linked, files and words kept, people added up on the item and in its worth; taken apart again, nothing is lost", async () => {
    const main = await sent({ title: ["Lamp out"] });
    const { itemId, itemKey } = await verdictOn(
      main.id,
      accepting({ title: "Lamp out", typeId: "request" }),
    );
    const other = await sent(
      { title: ["No light"], mail: ["dora@post.saltmarsh.example"] },
      { files: [{ name: "dark.txt", content: Buffer.from("dark") }] },
    );
    await followReport(other.token, "emil@post.saltmarsh.example");
    await followReport(other.token, "EMIL@post.saltmarsh.example");
    expect(await refusalOf(followReport(other.token, "dora@post.saltmarsh.example"))).toBe(
      "invalid",
    );
    const votes = async () =>
      (await readWorth(INES, "TIX")).rows.find((r) => r.itemId === itemId)!.request.votes;
    expect(await votes()).toBe(1);
    await verdictOn(other.id, { kind: "merge", itemId: itemId! });
    expect(await votes()).toBe(3);
    const view = await readItem(NOOR, itemKey!);
    expect(view.votes.reports).toBe(3);
    expect(view.reports.map((r) => [r.reference, r.status])).toEqual([
      [main.reference, "accepted"],
      [other.reference, "merged"],
    ]);
    expect(await refusalOf(takeApart(TOMAS, main.id))).toBe("conflict");

    // Long after, when undoing the verdict is out of reach of the one who gave it.
    await takeApart(INES, other.id);
    expect(await reportRow(other.id)).toMatchObject({ status: "unjudged", itemId: null });
    expect((await readItem(NOOR, itemKey!)).votes.reports).toBe(1);
    expect(await readReport(TOMAS, other.id)).toMatchObject({
      followers: 1,
      files: [{ name: "dark.txt" }],
    });
    expect((await readDesk(TOMAS, "TIX")).queue.map((q) => q.id)).toContain(other.id);
  });

  test("who follows a report has a page of their own, without what its sender wrote or sent", async () => {
    const row = await sent(
      { mail: ["fay@post.saltmarsh.example"] },
      { files: [{ name: "secret.txt", content: Buffer.from("telephone 7") }] },
    );
    await followReport(row.token, "gus@post.saltmarsh.example");
    const [{ token }] = await database()
      .select({ token: reportFollower.token })
      .from(reportFollower)
      .where(eq(reportFollower.reportId, row.id));
    const page = await readPrivatePage(token);
    expect(page).toMatchObject({ wrote: null, files: [], awaitsAnswer: false, moves: [] });
    const own = await readPrivatePage(row.token);
    expect(own.others).toBe(1);
    expect(await refusalOf(privateFile(token, own.files[0].id))).toBe("not found");
  });
});

describe("parking", () => {
  test("until an item is done: it comes back by itself, and what is finished cannot be waited for", async () => {
    const awaited = await itemIn(NOOR, "New gates arrive", "Ready", "Building");
    const row = await sent();
    await verdictOn(row.id, { kind: "park", until: null, itemId: awaited });
    const aside = async () => (await readDesk(TOMAS, "TIX")).aside.find((r) => r.id === row.id);
    expect(await aside()).toMatchObject({ parkedFor: await keyOf(awaited), parkedUntil: null });
    expect((await readPrivatePage(row.token)).status.detail).toMatch(/other work/);
    await move(NOOR, awaited, "Closed", { outcome: "declined" });
    await drain();
    expect(await reportRow(row.id)).toMatchObject({
      status: "unjudged",
      parkedItemId: null,
      returnedAt: expect.any(Number),
    });
    expect(await refusalOf(verdictOn(row.id, { kind: "park", until: null, itemId: awaited }))).toBe(
      "invalid",
    );
    expect(
      await refusalOf(verdictOn(row.id, { kind: "park", until: null, itemId: randomUUID() })),
    ).toBe("invalid");
  });
});

describe("a restricted item", () => {
  test("is seen by leads, by who judged it and by who works on it; by nobody else in any list, and its requester knows no difference", async () => {
    const row = await sent({ title: ["Anybody can read my tickets"] });
    const { itemId, itemKey } = await verdictOn(
      row.id,
      accepting({
        title: "Tickets of others can be read",
        restricted: true,
        assigneeId: "noor",
        onBoard: true,
      }),
    );
    for (const viewer of [TOMAS, INES, NOOR, GRETA])
      expect((await readItem(viewer, itemKey!)).item.restricted).toBe(true);
    for (const viewer of [IVO, ARTHUR]) {
      expect(await refusalOf(readItem(viewer, itemKey!))).toBe("not found");
      expect(
        (await findItems(viewer, { q: "Tickets of others" })).rows.map((i) => i.key),
      ).not.toContain(itemKey);
      expect(JSON.stringify(await readBoard(viewer, "TIX"))).not.toContain("Tickets of others");
      expect(JSON.stringify(await readLearn(viewer, "TIX", { period: "4 weeks" }))).not.toContain(
        itemId,
      );
    }
    expect(JSON.stringify(await readBoard(NOOR, "TIX"))).toContain("Tickets of others");
    expect(await refusalOf(readReport(IVO, row.id))).toBe("not found");
    expect(await refusalOf(send(IVO, itemId!, { kind: "comment", body: "x" }))).toBe("not found");
    expect((await readDesk(IVO, "TIX")).inWork.map((i) => i.id)).not.toContain(itemId);
    expect((await readPrivatePage(row.token)).status.headline).toBe("Being worked on");
    const alike = await sent({ title: ["Tickets of others can be read"] });
    expect((await readReport(IVO, alike.id)).similar.map((s) => s.id)).not.toContain(itemId);
    expect((await readReport(TOMAS, alike.id)).similar[0].id).toBe(itemId);
  });
});

describe("who only reads", () => {
  const form = async () => (await readForms(INES, "TIX")).forms[0];
  test.each<[string, (reportId: string, itemId: string) => Promise<unknown>]>([
    ["reads no desk", () => readDesk(ARTHUR, "TIX")],
    ["reads no report", (id) => readReport(ARTHUR, id)],
    ["reads no forms", () => readForms(ARTHUR, "TIX")],
    [
      "changes no form",
      async () => {
        const { id, version } = await form();
        return editForm(ARTHUR, "TIX", { kind: "change", id, seenVersion: version, open: false });
      },
    ],
    [
      "judges nothing",
      (id) =>
        triageReport(ARTHUR, id, {
          commandId: randomUUID(),
          seenVersion: 1,
          verdict: { kind: "decline", reason: "x" },
        }),
    ],
    ["says nothing of parts", (id) => sayParts(ARTHUR, id, { parts: [] })],
    ["takes nothing apart", (id) => takeApart(ARTHUR, id)],
    [
      "tries nothing",
      (id) =>
        recordReproduction(ARTHUR, id, {
          kind: "tried",
          id: randomUUID(),
          try: { tried: "x", version: "", steps: "", result: "happened", note: "" },
        }),
    ],
    ["publishes nothing", (_id, itemId) => publishKnown(ARTHUR, itemId, { words: "x" })],
    [
      "sets no rules",
      async () =>
        editRules(ARTHUR, "TIX", {
          seenVersion: (await loadRules(database(), "tix")).version,
          triage: (await loadRules(database(), "tix")).triage,
        }),
    ],
  ])("%s", async (_name, attempt) => {
    expect(
      await refusalOf(attempt((await sent()).id, await itemIn(NOOR, "Not for everybody"))),
    ).toBe("not allowed");
  });
});

describe("at the desk", () => {
  test("two see who reads what, until one leaves", async () => {
    const row = await sent();
    const readers = async (now?: number) =>
      (await readDesk(TOMAS, "TIX", now)).queue.find((q) => q.id === row.id)!.readers;
    await openOnDesk(NOOR, row.id);
    expect(await readers()).toEqual(["Noor Bakri"]);
    await openOnDesk(TOMAS, row.id);
    expect(await readers()).toEqual(["Noor Bakri"]); // oneself is no other
    expect(await readers(Date.now() + PRESENT_MS + 1)).toEqual([]);
    await openOnDesk(NOOR, (await sent()).id);
    expect(await readers()).toEqual([]);
    expect(await refusalOf(openOnDesk(ARTHUR, row.id))).toBe("not allowed");
  });

  test("tries are kept with who, where and on what; one's own can be taken back; sent twice it counts once", async () => {
    const row = await sent();
    const tried = (id: string, result: "happened" | "did not happen") =>
      ({
        kind: "tried",
        id,
        try: { tried: "Gate 2, workshop", version: "4.12", steps: "", result, note: "" },
      }) as const;
    const [one, two] = [randomUUID(), randomUUID()];
    await recordReproduction(IVO, row.id, tried(one, "did not happen"));
    await recordReproduction(IVO, row.id, tried(one, "did not happen"));
    expect(await readReport(TOMAS, row.id)).toMatchObject({
      reproducible: "not reproduced",
      tries: [{ by: "Ivo Sandell", tried: "Gate 2, workshop", version: "4.12", mine: false }],
    });
    await recordReproduction(TOMAS, row.id, tried(two, "happened"));
    expect((await readReport(TOMAS, row.id)).reproducible).toBe("reproduced");
    expect(await refusalOf(recordReproduction(TOMAS, row.id, { kind: "take back", id: one }))).toBe(
      "not found",
    );
    await recordReproduction(TOMAS, row.id, { kind: "take back", id: two });
    expect((await readReport(TOMAS, row.id)).reproducible).toBe("not reproduced");
  });

  test("what accepting says all lands on the item, on the board where that was said; undone, the board is as before", async () => {
    const { sprints, releases } = await readDesk(TOMAS, "TIX");
    const row = await sent();
    const said = {
      area: "Gannet quay",
      labels: ["night", "noise"],
      sprintId: sprints[0]?.id ?? null,
      releaseId: releases[0].id,
      impact: "many people" as const,
      urgency: "this week" as const,
      priority: "high" as const,
      assigneeId: "ivo",
      onBoard: true,
    };
    const { itemId, verdictId } = await verdictOn(row.id, accepting(said));
    const [made] = await database().select().from(item).where(eq(item.id, itemId!));
    expect(made).toMatchObject({
      place: "Gannet quay",
      labels: ["night", "noise"],
      sprintId: said.sprintId,
      releaseId: said.releaseId,
      priority: "high",
      assigneeId: "ivo",
    });
    expect(["waiting", "working"]).toContain(made.stateKind);
    expect(
      (await database().select().from(reportVerdict).where(eq(reportVerdict.reportId, row.id)))[0]
        .verdict,
    ).toMatchObject({ acceptance: { impact: "many people", urgency: "this week" } });
    await undoVerdict(TOMAS, row.id, verdictId);
    expect(
      await database()
        .select({ n: count() })
        .from(item)
        .where(and(eq(item.id, itemId!), isNull(item.withdrawnAt))),
    ).toEqual([{ n: 0 }]);
  });

  test("how long verdicts took is measured; loads stand against the limit that was agreed on; other desks are in reach", async () => {
    const row = await sent();
    await triageReport(TOMAS, row.id, {
      commandId: randomUUID(),
      seenVersion: 1,
      verdict: { kind: "decline", reason: "No." },
      tookMs: 41_000,
    });
    const { version, triage } = await loadRules(database(), "tix");
    await editRules(INES, "TIX", { seenVersion: version, triage: { ...triage, personLimit: 3 } });
    const desk = await readDesk(TOMAS, "TIX");
    expect(desk.took[0]).toBe(41_000);
    expect(desk.people.every((p) => p.limit === 3)).toBe(true);
    const [{ n }] = await database()
      .select({ n: count() })
      .from(item)
      .where(
        and(
          eq(item.projectId, "tix"),
          eq(item.assigneeId, "noor"),
          isNull(item.withdrawnAt),
          isNull(item.parentId),
          eq(item.stateKind, "working"),
        ),
      );
    expect(desk.people.find((p) => p.id === "noor")!.load).toBeGreaterThanOrEqual(n);
    const mine = await database()
      .select({ id: membership.projectId })
      .from(membership)
      .where(eq(membership.personId, "tomas"));
    expect(desk.desks).toHaveLength(mine.length);
    expect(desk.desks.find((d) => d.key === "TIX")!.waiting).toBe(desk.queue.length);
  });
});

test("what a form could not take is kept for an hour, for that form and what opens it, and only what it asks", async () => {
  const values = { title: [""], mail: ["anna@post.example"], secret: ["not asked"] };
  const errors = [{ field: "title", message: "Say it." }];
  const now = Date.now();
  const token = await keepAttempt("TIX", "report", { values, errors }, now);
  const { id } = await publicForm("TIX", "report");
  const kept = await readAttempt(id, token, now + 59 * 60_000);
  expect(kept?.errors).toEqual(errors);
  expect(kept?.values).toMatchObject({ title: [""], mail: ["anna@post.example"] });
  expect(kept?.values).not.toHaveProperty("secret");
  expect(await readAttempt(randomUUID(), token, now)).toBeNull();
  expect(await readAttempt(id, token, now + 61 * 60_000)).toBeNull();
  await forgetAttempts(now + 61 * 60_000);
  expect(await database().select().from(formAttempt)).toEqual([]);
});
