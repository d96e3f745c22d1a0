import { chanceWords, probablyWords } from "@/core/plan/probably";

describe("when an item is probably finished", () => {
  const at = (sure: string | null, even: string | null) => ({ sure, even });

  test("is the surer day that can be said; nothing where neither can", () => {
    expect(probablyWords(at("2026-12-08", "2026-12-01"), null)).toEqual({
      words: "85 % by 8 Dec",
      late: false,
    });
    expect(probablyWords(at(null, "2027-03-01"), null)?.words).toBe("50 % by 1 Mar");
    expect(probablyWords(at(null, null), "2026-12-08")).toBeNull();
  });

  test("is late where it is not sure by the day that it is due, that day itself is in time", () => {
    expect(probablyWords(at("2026-12-08", null), "2026-12-08")?.late).toBe(false);
    expect(probablyWords(at("2026-12-08", null), "2026-12-07")).toEqual({
      words: "85 % by 8 Dec, due 7 Dec",
      late: true,
    });
    expect(probablyWords(at(null, "2026-12-01"), "2026-12-31")?.late).toBe(true);
  });

  test("a chance is never none, and never certain", () => {
    expect([0, 0.004, 0.015, 0.62, 0.995, 1].map(chanceWords)).toEqual([
      "less than 1 %",
      "less than 1 %",
      "2 %",
      "62 %",
      "more than 99 %",
      "more than 99 %",
    ]);
  });
});
