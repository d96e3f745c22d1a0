import { v7 as newId } from "uuid";
import type { WalkRequest } from "@/core/walk/contract";
import { readItem } from "@/server/item/read";
import { changeWalk } from "@/server/walk/change";
import { readWalks } from "@/server/walk/read";
import { readBoard } from "@/server/board/read";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const BOARD = "tix-board";
const change = (request: WalkRequest, viewer = INES, now = Date.now()) =>
  changeWalk(viewer, "TIX", request, now);

async function begun(now = Date.now()): Promise<string> {
  const { running } = await readWalks(INES, "TIX", BOARD);
  if (running) await change({ kind: "end", id: running.id }, INES, now);
  const id = newId();
  await change({ kind: "start", id, board: BOARD, order: "from the end", minutes: 15 }, INES, now);
  return id;
}
const keyOf = async (id: string) =>
  (await readBoard(INES, "TIX")).cards.find((card) => card.id === id)!.key;

test("one board is walked once at a time; whoever says where to goes on leads", async () => {
  const id = await begun();
  const other = { kind: "start" as const, id: newId(), board: BOARD, minutes: 10 };
  expect(await refusalOf(change({ ...other, order: "by person" }, NOOR))).toBe("invalid");
  const item = await itemIn(NOOR, "Looked at together", "Ready");
  const passed = await itemIn(NOOR, "Passed by", "Ready");
  await change({ kind: "go", id, itemId: item, passed: [passed] }, NOOR);
  const { running } = await readWalks(TOMAS, "TIX", BOARD);
  expect(running).toMatchObject({ id, itemId: item, ledBy: { name: "Noor Bakri" } });
  expect(new Set(running!.seen)).toEqual(new Set([item, passed]));
  await change({ kind: "lead", id }, INES);
  expect((await readWalks(TOMAS, "TIX", BOARD)).running?.ledBy.name).toBe("Ines Dahl");
  await change({ kind: "end", id });
  expect(await refusalOf(change({ kind: "go", id, itemId: item, passed: [] }))).toBe("invalid");
});

test("what is agreed on is a comment with whose it is and by when; taken back, the comment stays", async () => {
  const id = await begun();
  const itemId = await itemIn(NOOR, "Agreed about", "Ready");
  const noteId = newId();
  const agree = {
    kind: "agree" as const,
    id,
    noteId,
    itemId,
    ownerId: "noor",
    dueOn: "2026-12-03",
  };
  await change({ ...agree, text: "Noor asks the quay" });
  // What did not get through is sent again.
  await change({ ...agree, text: "Noor asks the quay" });
  const key = await keyOf(itemId);
  const comment = async () => (await readItem(INES, key)).talk.comments.at(-1);
  expect(await comment()).toMatchObject({
    body: "Noor asks the quay",
    author: "Ines Dahl",
    agreed: { owner: "Noor Bakri", dueOn: "2026-12-03" },
  });
  const notes = async () => (await readWalks(INES, "TIX", BOARD)).running!.notes;
  expect(await notes()).toMatchObject([{ kind: "agreed", text: "Noor asks the quay", key }]);
  const stranger = { ...agree, noteId: newId(), text: "x", ownerId: "nobody-here" };
  expect(await refusalOf(change(stranger))).not.toBe("nothing refused");
  await change({ kind: "take back", id, noteId });
  expect(await notes()).toEqual([]);
  expect(await comment()).toMatchObject({ body: "Noor asks the quay", agreed: null });
});

test("what is left for later opens the next walk, and that one takes it up", async () => {
  const first = await begun(Date.now() + 1_000);
  const itemId = await itemIn(NOOR, "Talked about later", "Ready");
  await change({ kind: "later", id: first, noteId: newId(), itemId, text: "Who pays?" });
  await change({ kind: "end", id: first });
  const left = async () => (await readWalks(INES, "TIX", BOARD)).left.map((note) => note.text);
  expect(await left()).toEqual(["Who pays?"]);
  const second = await begun(Date.now() + 2_000);
  expect(await left()).toEqual(["Who pays?"]);
  await change({ kind: "end", id: second });
  expect(await left()).toEqual([]);
  const { past } = await readWalks(INES, "TIX", BOARD);
  expect(past.map((walk) => walk.id).slice(0, 2)).toEqual([second, first]);
});

test("observers come along, and nobody is told of what they may not see", async () => {
  const id = await begun();
  const itemId = await itemIn(NOOR, "Walked by leads", "Ready");
  await send(INES, itemId, { kind: "edit", seenVersion: 2, changes: { restricted: true } });
  await change({ kind: "go", id, itemId, passed: [] });
  await change({ kind: "later", id, noteId: newId(), itemId, text: "Quietly" });
  const { running } = await readWalks(ARTHUR, "TIX", BOARD);
  expect(running).toMatchObject({ id, itemId: null, notes: [], seen: [] });
  expect(await refusalOf(change({ kind: "end", id }, ARTHUR))).toBe("not allowed");
  const gate = (await readBoard(INES, "GATE")).cards[0].id;
  expect(await refusalOf(change({ kind: "go", id, itemId: gate, passed: [] }))).toBe("not found");
});
