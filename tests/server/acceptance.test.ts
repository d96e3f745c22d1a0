import { randomUUID } from "node:crypto";
import { and, desc, eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import type { ShowBody, ShownToBody } from "@/core/ship/acceptance/shown-item";
import type { Requirement } from "@/core/workflow/requirements/table";
import type { Trigger } from "@/core/workflow/trigger";
import type { Workflow } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import { accountLetter, acceptanceAnswer, alert, alertPart, item, showing } from "@/db/schema";
import { readItem } from "@/server/item/read";
import type { Viewer } from "@/server/people/viewer";
import { stepShowing } from "@/server/ship/acceptance/change";
import { readDrafts } from "@/server/ship/acceptance/drafts";
import { sayInside } from "@/server/ship/acceptance/own-showing";
import { readPublicShowing, sayOutside } from "@/server/ship/acceptance/private-showing";
import { readAcceptance, readItemAcceptance } from "@/server/ship/acceptance/read-acceptance";
import { remindAcceptors } from "@/server/ship/acceptance/remind-due";
import { showWork } from "@/server/ship/acceptance/show";
import { ANSWERS, itemIn, move, refusalOf, TO_LIVE } from "./setup/board";
import { commit, pushed, type SaidCommit } from "./setup/code-host";
import { delivery, post, settle } from "./setup/events";
import { ARTHUR, GRETA, INES, NOOR, OSKAR, TOMAS } from "./setup/people";
import { publishChange } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

/*
 * Work that is shown to people, with or without an account, so that they accept it: what they see, what comes of
 * what they say, and what they are never told.
 */

givenTestDatabase();
beforeAll(placeConsumersAtTheEnd);

const TO_DEPLOY = TO_LIVE.slice(0, -1);
const HARBOUR = { name: "Harbour office", mail: "harbour@skerrin.example" };

async function itemAt(title: string, ...path: string[]) {
  const id = await itemIn(NOOR, title, ...path);
  const read = async () => (await database().select().from(item).where(eq(item.id, id)))[0];
  return { id, key: `TIX-${(await read()).number}`, read, stateName: () => stateOf(id) };
}

async function stateOf(id: string): Promise<string> {
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return (await readItem(INES, `TIX-${number}`)).state.name;
}

const shownAs = (itemId: string, title = "Seats can be chosen"): ShowBody["items"][number] => ({
  ...{ itemId, title, how: "Open the app and choose.", address: "", tested: true, pictures: [] },
});

/** Shows an item. @returns the address of each page, by its token */
async function show(itemIds: string[], to: ShownToBody[], by: Viewer = INES, id = randomUUID()) {
  const body = { id, to, words: "Please look.", items: itemIds.map((one) => shownAs(one)) };
  const { pages } = await showWork(by, "TIX", body);
  return pages.map(({ page }) => page?.split("/a/")[1] ?? "");
}

const word = (itemId: string, accepted: boolean, words = "") => ({
  ...{ itemIds: [itemId], accepted, name: "Ottilie Brandt", words },
});

const heardOf = async (id: string) =>
  (
    await readItem(
      INES,
      `TIX-${(await database().select().from(item).where(eq(item.id, id)))[0].number}`,
    )
  ).history
    .map(({ words }) => words)
    .filter((words) => words.startsWith("heard"));

/** What somebody was told of an item, by the rules it was told by. */
const toldTo = async (personId: string, itemId: string) =>
  (
    await database()
      .select({ rules: alertPart.rules })
      .from(alertPart)
      .innerJoin(alert, eq(alert.id, alertPart.alertId))
      .where(and(eq(alert.personId, personId), eq(alert.itemId, itemId)))
  ).flatMap(({ rules }) => rules);

/** Publishes that a move is made by something, or demands it. */
const withMove = (
  verb: string,
  more: { triggers?: Trigger[]; requirements?: Requirement[] },
): Promise<unknown> =>
  publishChange((workflow: Workflow) => ({
    ...workflow,
    transitions: workflow.transitions.map((t) => (t.verb === verb ? { ...t, ...more } : t)),
  }));

test("a page of somebody without an account says only what is meant for them, and looking changes nothing", async () => {
  const one = await itemAt("Internal words about Noor", ...TO_DEPLOY);
  const [token] = await show([one.id], [HARBOUR]);
  const before = await database().select().from(showing);
  const page = await readPublicShowing(token);
  await readPublicShowing(token);
  expect(await database().select().from(showing)).toEqual(before);
  expect(page.items.map(({ title, how, answered }) => [title, how, answered])).toEqual([
    ["Seats can be chosen", "Open the app and choose.", "waits"],
  ]);
  expect(JSON.stringify(page)).not.toMatch(/Noor|Internal|TIX-|Ines/);
  const [letter] = await database()
    .select()
    .from(accountLetter)
    .where(eq(accountLetter.recipient, HARBOUR.mail));
  expect(letter.body).toContain(`/a/${token}`);
  expect(letter.body).toContain("Please look.");
  for (const wrong of ["x", token.slice(1), `${token.slice(0, -1)}!`])
    expect(await refusalOf(readPublicShowing(wrong))).toBe("not found");
});

test("who accepts is kept by name, with their words; whoever asked is told, and the item heard it", async () => {
  const one = await itemAt("Seats by the window", ...TO_DEPLOY);
  const [token] = await show([one.id], [HARBOUR]);
  const page = await sayOutside(token, word(one.id, true, "Just right."));
  expect(page.items[0]).toMatchObject({
    answered: "accepted",
    said: { name: "Ottilie Brandt", words: "Just right." },
  });
  await settle();
  expect(await heardOf(one.id)).toEqual(["heard: 1 of 1 whom it was shown to accepted it"]);
  expect(await toldTo("ines", one.id)).toContain("accepting");
  const { acceptance, to } = await readItemAcceptance(ARTHUR, one.key);
  expect([acceptance, to[0].answered]).toEqual([{ asked: 1, given: 1 }, "accepted"]);
});

test("what is missing sends it back as the process says, with why; nothing finished moves", async () => {
  const [open, done] = [
    await itemAt("Seats for dogs", ...TO_DEPLOY),
    await itemAt("Seats for gulls", ...TO_DEPLOY),
  ];
  await move(NOOR, done.id, "Live", { ...ANSWERS, outcome: "delivered" });
  const [token] = await show([open.id, done.id], [HARBOUR]);
  await sayOutside(token, word(open.id, false, "The dog has no price."));
  await sayOutside(token, word(done.id, false, "The gull has no price."));
  await settle();
  expect([await open.stateName(), await done.stateName()]).toEqual(["Building", "Live"]);
  const { showings } = await readAcceptance(INES, "TIX");
  const { rows } = showings.find(({ page }) => page?.endsWith(token))!;
  expect(rows.map(({ answered, said }) => [answered, said[0].words])).toEqual([
    ["missing", "The dog has no price."],
    ["missing", "The gull has no price."],
  ]);
  // They look once more and are content: both words stay.
  const after = await sayOutside(token, word(open.id, true));
  expect(after.items[0].answered).toBe("accepted");
  expect(
    await database().select().from(acceptanceAnswer).where(eq(acceptanceAnswer.itemId, open.id)),
  ).toHaveLength(2);
});

describe("how many have to accept it", () => {
  test("all of them: the move waits for the last, and whom it was taken back from counts no more", async () => {
    await withMove("Deploy", {
      requirements: [
        { kind: "outcome", allowed: ["delivered", "obsolete"] },
        { kind: "accepted", by: "everybody" },
      ],
    });
    const one = await itemAt("Two have a say", ...TO_DEPLOY);
    const live = () => move(NOOR, one.id, "Live", { ...ANSWERS, outcome: "delivered" });
    expect(await refusalOf(live())).toBe("acceptance missing");
    const [first, second] = await show([one.id], [HARBOUR, { name: "School office", mail: "" }]);
    await sayOutside(first, word(one.id, true));
    expect(await refusalOf(live())).toBe("acceptance missing");
    const { showings } = await readAcceptance(INES, "TIX");
    const { id } = showings.find(({ page }) => page?.endsWith(second))!;
    await stepShowing(INES, { key: "TIX", showing: id }, { step: "take back" });
    await live();
    expect(await one.stateName()).toBe("Live");
  });

  test("so many: the move happens by itself with the second of three", async () => {
    await withMove("Deploy", {
      requirements: [{ kind: "outcome", allowed: ["delivered"] }],
      triggers: [{ kind: "accepted", by: "2" }],
    });
    const one = await itemAt("Three have a say", ...TO_DEPLOY);
    const tokens = await show(
      [one.id],
      ["a", "b", "c"].map((name) => ({ name, mail: "" })),
    );
    await sayOutside(tokens[0], word(one.id, true));
    await settle();
    expect(await one.stateName()).toBe("Ready to deploy");
    await sayOutside(tokens[2], word(one.id, true));
    await settle();
    expect(await one.stateName()).toBe("Live");
    await withMove("Deploy", { triggers: [] });
  });
});

test("what is deployed later makes it stale: it is asked for once more", async () => {
  const one = await itemAt("Prices by age", ...TO_DEPLOY);
  const [token] = await show([one.id], [HARBOUR]);
  const name = `ages-${one.key.toLowerCase()}`;
  let last: SaidCommit[] = [];
  let minute = 0;
  const time = () => `2026-11-23T10:${String(++minute).padStart(2, "0")}:00Z`;
  const merge = async () => {
    last = [commit(`${one.key}: ages`, { after: last })];
    await post(pushed("main", last, { repository: name, main: true, time: time() }));
    return last[0];
  };
  const deploy = async ({ id }: SaidCommit) => {
    const content = { repository: { id: name }, environment: { id: "acceptance" } };
    await post({
      ...delivery("service.deployed", { id: name, content }, { commit: id }),
      time: time(),
    });
  };
  await deploy(await merge());
  expect((await sayOutside(token, word(one.id, true))).items[0].answered).toBe("accepted");
  // More is merged: they have seen nothing else yet. Then it is deployed.
  const more = await merge();
  expect((await readPublicShowing(token)).items[0].answered).toBe("accepted");
  await deploy(more);
  expect((await readPublicShowing(token)).items[0].answered).toBe("changed since");
  expect((await readItemAcceptance(INES, one.key)).acceptance).toEqual({ asked: 1, given: 0 });
});

test("what was taken back, or is over, can be looked at and answered no more; asked again it can", async () => {
  const one = await itemAt("Over the hill", ...TO_DEPLOY);
  const [token] = await show([one.id], [HARBOUR]);
  const { id } = (await readAcceptance(INES, "TIX")).showings.find(({ page }) =>
    page?.endsWith(token),
  )!;
  const at = { key: "TIX", showing: id };
  const later = Date.now() + 31 * DAY;
  expect((await readPublicShowing(token, later)).closed).toBe("over");
  expect(await refusalOf(sayOutside(token, word(one.id, true), later))).toBe("invalid");
  await stepShowing(INES, at, { step: "take back" });
  const gone = await readPublicShowing(token);
  expect([gone.closed, gone.items, gone.words]).toEqual(["taken back", [], ""]);
  expect(await refusalOf(sayOutside(token, word(one.id, true)))).toBe("invalid");
  await stepShowing(INES, at, { step: "ask again" });
  // The old address stays dead, whoever has it.
  expect(await refusalOf(readPublicShowing(token))).toBe("not found");
  const { page } = (await readAcceptance(INES, "TIX")).showings.find((of) => of.id === id)!;
  expect((await readPublicShowing(page!.split("/a/")[1])).items).toHaveLength(1);
});

test("who says nothing is reminded after days, not more than three times, and not once they spoke", async () => {
  const [silent, spoken] = [await itemAt("Silence"), await itemAt("Speech")];
  const quiet = { name: "Quiet office", mail: "quiet@skerrin.example" };
  await show([silent.id], [quiet]);
  const [token] = await show([spoken.id], [{ name: "Loud", mail: "loud@skerrin.example" }]);
  await sayOutside(token, word(spoken.id, true));
  const now = Date.now();
  const lettersTo = async (mail: string) =>
    (
      await database()
        .select()
        .from(accountLetter)
        .where(eq(accountLetter.recipient, mail))
        .orderBy(desc(accountLetter.dueAt))
    ).length;
  for (const day of [1, 3, 5, 5, 12, 20, 26, 28, 29]) await remindAcceptors(now + day * DAY);
  expect([await lettersTo(quiet.mail), await lettersTo("loud@skerrin.example")]).toEqual([4, 1]);
  const { id } = (await readAcceptance(INES, "TIX")).showings.find((of) => of.name === quiet.name)!;
  const again = stepShowing(INES, { key: "TIX", showing: id }, { step: "remind" }, now + 26 * DAY);
  expect(await refusalOf(again)).toBe("invalid");
});

test("somebody with an account finds it in their own queue and says their word there, also who only looks", async () => {
  const one = await itemAt("For the routes", ...TO_DEPLOY);
  await show([one.id], [{ personId: "arthur" }]);
  expect(await toldTo("arthur", one.id)).toEqual(["shown"]);
  const [own] = (await readAcceptance(ARTHUR, "TIX")).own.filter(({ itemId }) => itemId === one.id);
  expect([own.title, own.key, own.answered]).toEqual(["Seats can be chosen", one.key, "waits"]);
  const at = { key: "TIX", showing: own.showingId };
  expect(await refusalOf(sayInside(TOMAS, at, word(one.id, true)))).toBe("not found");
  await sayInside(ARTHUR, at, word(one.id, true));
  await settle();
  const [to] = (await readItemAcceptance(INES, one.key)).to;
  // By the name of their account, whatever was typed.
  expect([to.answered, to.said[0].name]).toEqual(["accepted", "Arthur Quill"]);
  expect(await toldTo("arthur", one.id)).toEqual(["shown"]);
});

test("who may not, and what is hidden", async () => {
  const one = await itemAt("Open to all", ...TO_DEPLOY);
  const hidden = await itemAt("Quartz of the night", ...TO_DEPLOY);
  await database().update(item).set({ restricted: true }).where(eq(item.id, hidden.id));
  const body = (itemIds: string[]): ShowBody => ({
    ...{ id: randomUUID(), to: [HARBOUR], words: "", items: itemIds.map((id) => shownAs(id)) },
  });
  expect(await refusalOf(showWork(ARTHUR, "TIX", body([one.id])))).toBe("not allowed");
  expect(await refusalOf(showWork(OSKAR, "TIX", body([one.id])))).toBe("not allowed");
  expect(await refusalOf(showWork(TOMAS, "TIX", body([one.id, hidden.id])))).toBe("not found");
  expect(await readDrafts(TOMAS, "TIX", { items: hidden.key })).toEqual([]);
  const picture = { ...shownAs(one.id), pictures: [randomUUID()] };
  const wrong = { ...body([]), items: [picture] };
  expect(await refusalOf(showWork(INES, "TIX", wrong))).toBe("invalid");
  const [token] = await show([one.id, hidden.id], [HARBOUR]);
  const theirs = await readAcceptance(TOMAS, "TIX");
  expect(JSON.stringify(theirs)).not.toContain("Quartz");
  // Whoever did not ask and does not lead sees neither the address nor may take it back.
  const seen = theirs.showings.find(({ rows }) => rows.some(({ itemId }) => itemId === one.id))!;
  expect([seen.page, seen.mayChange, seen.unseen]).toEqual([null, false, 1]);
  const step = stepShowing(TOMAS, { key: "TIX", showing: seen.id }, { step: "take back" });
  expect(await refusalOf(step)).toBe("not allowed");
  // Only what is shown on a page can be answered on it.
  const other = await itemAt("Somewhere else", ...TO_DEPLOY);
  expect(await refusalOf(sayOutside(token, word(other.id, true)))).toBe("not found");
  expect((await readAcceptance(GRETA, "TIX")).showings.length).toBeGreaterThan(0);
});

test("the same thing sent twice is shown once, by the same page", async () => {
  const one = await itemAt("Sent twice", ...TO_DEPLOY);
  const id = randomUUID();
  const [first] = await show([one.id], [HARBOUR], INES, id);
  const [again] = await show([one.id], [HARBOUR], INES, id);
  expect(again).toBe(first);
  expect((await readItemAcceptance(INES, one.key)).to).toHaveLength(1);
});
