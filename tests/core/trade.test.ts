import { peopleByTrade, tradesIn, tradesLine, tradesSchema } from "@/core/people/trade";

describe("what people are good for", () => {
  test("is written in one line, and read back from it", () => {
    const trades = ["tester", "server administrator"];
    expect(tradesIn(tradesLine(trades))).toEqual(trades);
    expect(tradesIn(" tester ;; maps,\n,designer")).toEqual(["tester", "maps", "designer"]);
    expect(tradesIn("  ")).toEqual([]);
  });

  test("is kept once, as it was written first", () => {
    expect(tradesSchema.parse(["Tester", " tester ", "maps", "TESTER"])).toEqual([
      "Tester",
      "maps",
    ]);
  });

  test.each([
    ["a trade of many words", ["x".repeat(31)], "A trade has at most 30 characters."],
    ["no words", [" "], "A trade is a word or two."],
    [
      "too many",
      Array.from({ length: 9 }, (_, i) => `trade ${i}`),
      "Somebody has at most 8 trades here.",
    ],
  ])("is refused in words: %s", (_, trades, sentence) => {
    expect(tradesSchema.safeParse(trades).error?.issues[0].message).toBe(sentence);
  });

  test("says who there is for something, whatever its letters", () => {
    const people = [
      { id: "mei", trades: ["designer", "Tester"] },
      { id: "lukas", trades: ["tester"] },
      { id: "noor", trades: [] },
    ];
    expect(peopleByTrade(people)).toEqual([
      { trade: "designer", ids: ["mei"] },
      { trade: "Tester", ids: ["mei", "lukas"] },
    ]);
  });
});
