import {
  NOTHING_AROUND_IT,
  standsAround,
  waitedForWords,
  waitsForWords,
  type Around,
} from "@/core/board/around";

const end = (id: string) => ({
  id,
  key: `TIX-${id}`,
  stateId: "build",
  teamId: null,
  sprintId: null,
});
const around = (change: Partial<Around>): Around => ({ ...NOTHING_AROUND_IT, ...change });

test.each<[Partial<Around>, string | null]>([
  [{}, null],
  [{ waitsFor: [end("9")] }, "waits for TIX-9"],
  [{ waitsFor: [end("9"), end("8")] }, "waits for TIX-9 and 1 more"],
  [{ waitsFor: [end("9")], waitsForUnseen: 2 }, "waits for TIX-9 and 2 more"],
  [{ waitsForUnseen: 1 }, "waits for an item outside your view"],
  [{ waitsForUnseen: 3 }, "waits for 3 items outside your view"],
])("what an item waits for, in words: %j", (change, words) =>
  expect(waitsForWords(around(change))).toBe(words),
);

test("how many wait for an item, in words", () => {
  expect(waitedForWords(around({}))).toBeNull();
  expect(waitedForWords(around({ waitedFor: [end("9")] }))).toBe("1 waits for this");
  expect(waitedForWords(around({ waitedFor: [end("9"), end("8")] }))).toBe("2 wait for this");
});

test("an item stands around those that wait for it and those that it waits for", () => {
  const all = {
    a: around({ waitsFor: [end("x")] }),
    b: around({ waitedFor: [end("x")] }),
    c: around({ children: 2, waitsFor: [end("y")] }),
  };
  expect(standsAround(all, "x")).toEqual(["a", "b"]);
  expect(standsAround(all, "z")).toEqual([]);
});
