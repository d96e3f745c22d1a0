import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { EMPTIED } from "@/core/item/event-texts";
import { database } from "@/db/connection";
import { comment, item, itemText } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { findAll } from "@/server/find/find";
import { readItem } from "@/server/item/read";
import type { Viewer } from "@/server/people/viewer";
import { emptyComment, lookAt, signComment } from "@/server/talk/change";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const keyOf = async (id: string) =>
  `TIX-${(await database().select().from(item).where(eq(item.id, id)))[0].number}`;
const set = async (by: Viewer, id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(by, id, { kind: "edit", seenVersion, changes });
};
const talkOf = async (viewer: Viewer, id: string) => (await readItem(viewer, await keyOf(id))).talk;
const say = async (by: Viewer, id: string, body: string, more: object = {}) => {
  await send(by, id, { kind: "comment", body, ...more });
  return (await talkOf(by, id)).comments.at(-1)!;
};

describe("a thread", () => {
  test("holds who names, asks and answers whom, until they have answered", async () => {
    const id = await itemIn(INES, "Rope ladder");
    const question = await say(INES, id, "@Noor Bakri and @Ticketing: how long?", { asks: true });
    expect(question.asks.map(({ id: who }) => who)).toEqual(
      expect.arrayContaining(["noor", "ivo"]),
    );
    expect(question.asks.some(({ id: who }) => who === "ines")).toBe(false);
    const answer = await say(NOOR, id, "Two days.", { answersId: question.id });
    expect(answer.threadId).toBe(question.id);
    const nested = await say(INES, id, "Thanks.", { answersId: answer.id });
    expect(nested.threadId).toBe(question.id);
    const now = (await talkOf(INES, id)).comments[0].asks;
    expect(now.find(({ id: who }) => who === "noor")?.answered).toBe(true);
    expect(now.find(({ id: who }) => who === "ivo")?.answered).toBe(false);
    expect(
      await refusalOf(send(INES, id, { kind: "comment", body: "x", answersId: randomUUID() })),
    ).toBe("not found");
  });

  test("a question that names nobody asks whoever has the item", async () => {
    const id = await itemIn(INES, "Rope end");
    await set(INES, id, { assigneeId: "ivo" });
    const { asks } = await say(INES, id, "Still on it?", { asks: true });
    expect(asks.map(({ name }) => name)).toEqual(["Ivo Sandell"]);
  });
});

describe("a comment", () => {
  test("is changed by whoever wrote it, with its earlier texts; findable as it is now", async () => {
    const id = await itemIn(NOOR, "Pulley");
    const { id: commentId } = await say(NOOR, id, "It squeaks gruntlefax.");
    expect(await refusalOf(send(INES, id, { kind: "edit comment", commentId, body: "No." }))).toBe(
      "not for you",
    );
    await send(NOOR, id, { kind: "edit comment", commentId, body: "It squeaks when wet." });
    const [now] = (await talkOf(INES, id)).comments;
    expect(now.body).toBe("It squeaks when wet.");
    expect(now.earlier.map(({ body }) => body)).toEqual(["It squeaks gruntlefax."]);
    expect((await findAll(INES, { q: "gruntlefax" })).comments).toEqual([]);
    expect((await findAll(INES, { q: "squeaks wet" })).comments).toHaveLength(1);
    expect((await checkItems()).findings).toEqual([]);
  });

  test("is taken back by its author, or by a lead with a reason; its words are shown to nobody", async () => {
    const id = await itemIn(NOOR, "Block");
    const mine = await say(NOOR, id, "Mine.");
    const other = await say(IVO, id, "His.");
    await send(NOOR, id, { kind: "take back comment", commentId: mine.id, why: "" });
    const take = { kind: "take back comment", commentId: other.id } as const;
    expect(await refusalOf(send(NOOR, id, { ...take, why: "I say so" }))).toBe("not for you");
    expect(await refusalOf(send(INES, id, { ...take, why: "" }))).toBe("invalid");
    await send(INES, id, { ...take, why: "Off the point." });
    const { comments } = await talkOf(NOOR, id);
    expect(comments.map(({ body }) => body)).toEqual(["", ""]);
    expect(comments.map(({ gone }) => gone?.by)).toEqual(["Noor Bakri", "Ines Dahl"]);
    expect(comments[1].gone?.why).toBe("Off the point.");
  });

  test("is removed for good by a lead: earlier texts too, with who and why on record", async () => {
    const id = await itemIn(NOOR, "Cleat");
    const { id: commentId } = await say(NOOR, id, "The password is driftwood-nine.");
    await send(NOOR, id, { kind: "edit comment", commentId, body: "It is driftwood-ten." });
    const ask = { commandId: randomUUID(), commentId, why: "A password." };
    const key = await keyOf(id);
    expect(await refusalOf(emptyComment(NOOR, key, ask))).toBe("not allowed");
    await emptyComment(INES, key, ask);
    const texts = await database().select().from(itemText).where(eq(itemText.itemId, id));
    expect(texts.filter(({ body }) => body.includes("driftwood"))).toEqual([]);
    expect(texts.filter(({ emptiedBy }) => emptiedBy === "ines").length).toBeGreaterThan(0);
    const [{ body, earlier }] = (await talkOf(NOOR, id)).comments;
    expect([body, ...earlier.map((one) => one.body)]).toEqual([EMPTIED, EMPTIED]);
    const rows = await database().select().from(comment).where(eq(comment.itemId, id));
    expect(rows[0].body).toBe(EMPTIED);
    const again = { ...ask, commandId: randomUUID() };
    expect(await refusalOf(emptyComment(INES, key, again))).toBe("invalid");
    expect((await checkItems()).findings).toEqual([]);
  });

  test("carries signs, each person's once, of those who may comment", async () => {
    const id = await itemIn(NOOR, "Shackle");
    const { id: commentId } = await say(NOOR, id, "Done.");
    const key = await keyOf(id);
    for (const viewer of [INES, IVO, INES])
      await signComment(viewer, key, { commentId, sign: "thanks", on: true });
    await signComment(IVO, key, { commentId, sign: "not so", on: true });
    await signComment(IVO, key, { commentId, sign: "not so", on: false });
    const [{ signs }] = (await talkOf(INES, id)).comments;
    expect(signs).toEqual([{ sign: "thanks", people: ["Ines Dahl", "Ivo Sandell"], mine: true }]);
    const asked = { commentId, sign: "seen", on: true } as const;
    expect(await refusalOf(signComment(ARTHUR, key, asked))).toBe("not allowed");
  });
});

test("a closed talk takes nothing more until a lead opens it again", async () => {
  const id = await itemIn(NOOR, "Hatch");
  expect(await refusalOf(send(NOOR, id, { kind: "close talk", closing: "nobody" }))).toBe(
    "not allowed",
  );
  await send(INES, id, { kind: "close talk", closing: "nobody" });
  expect(await refusalOf(send(NOOR, id, { kind: "comment", body: "x" }))).toBe("talk closed");
  expect((await talkOf(NOOR, id)).closed).toBe("nobody");
  await send(INES, id, { kind: "close talk", closing: null });
  await say(NOOR, id, "Open.");
  expect((await talkOf(NOOR, id)).closed).toBeNull();
});

test("what one looked at is one's own, and keys are named as far as one may see them", async () => {
  const secret = await itemIn(INES, "Secret cargo");
  await set(INES, secret, { restricted: true });
  const open = await itemIn(INES, "Open cargo");
  const id = await itemIn(INES, "Manifest");
  const [secretKey, openKey, key] = [await keyOf(secret), await keyOf(open), await keyOf(id)];
  await say(INES, id, `Between ${secretKey} and ${openKey}.`);
  expect(Object.keys((await talkOf(INES, id)).items).toSorted()).toEqual(
    [secretKey, openKey].toSorted(),
  );
  expect(Object.keys((await talkOf(NOOR, id)).items)).toEqual([openKey]);
  await lookAt(NOOR, key, 5_000);
  expect((await talkOf(NOOR, id)).lookedAt).toBe(5_000);
  expect((await talkOf(IVO, id)).lookedAt).toBeNull();
  expect(await refusalOf(lookAt(OSKAR, secretKey))).toBe("not found");
});
