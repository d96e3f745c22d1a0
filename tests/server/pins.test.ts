import { MOST_PINS } from "@/core/item/pins/contract";
import { changePins, readPins } from "@/server/item/pins";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const pin = (itemId: string) => changePins(ARTHUR, { kind: "pin", itemId });
const ids = async () => (await readPins(ARTHUR)).map(({ id }) => id);

test("pins are one's own, stand in the order in which they came, and are put into another", async () => {
  const before = await ids();
  const [a, b] = [await itemIn(NOOR, "First at hand"), await itemIn(NOOR, "Then this")];
  await pin(a);
  await pin(b);
  expect(await pin(a)).toHaveLength(before.length + 2);
  expect(await ids()).toEqual([...before, a, b]);
  await changePins(ARTHUR, { kind: "order", ids: [b, a, ...before] });
  expect(await ids()).toEqual([b, a, ...before]);
  expect((await readPins(NOOR)).map(({ id }) => id)).not.toContain(a);
  await changePins(NOOR, { kind: "unpin", itemId: a });
  await changePins(ARTHUR, { kind: "unpin", itemId: b });
  expect(await ids()).toEqual([a, ...before]);
});

test("what somebody may not see is not pinned, and is told no more once they may not", async () => {
  const hidden = await itemIn(NOOR, "Only for leads");
  await pin(hidden);
  const [told] = (await readPins(ARTHUR)).filter(({ id }) => id === hidden);
  expect(told).toMatchObject({ title: "Only for leads", stateKind: "unstarted" });
  await send(INES, hidden, { kind: "edit", seenVersion: 1, changes: { restricted: true } });
  expect(await ids()).not.toContain(hidden);
  await changePins(ARTHUR, { kind: "unpin", itemId: hidden });
  expect(await refusalOf(pin(hidden))).toBe("not found");
});

test("nobody pins without end", async () => {
  const { length } = await ids();
  for (let i = length; i < MOST_PINS; i++) await pin(await itemIn(NOOR, `At hand ${i}`));
  const one = await itemIn(NOOR, "One too many");
  expect(await refusalOf(pin(one))).toBe("invalid");
});
