import { goesOutWords } from "@/core/plan/goes-out";

test.each([
  [{ on: "2026-06-12", out: false }, "goes out with Crossing 7, 12 Jun"],
  [{ on: "2026-06-03", out: false }, "goes out with Crossing 7, 3 Jun"],
  [{ on: "2026-06-02", out: false }, "was to go out with Crossing 7, 2 Jun"],
  [{ on: null, out: false }, "goes out with Crossing 7, no day yet"],
  [{ on: "2026-06-02", out: true }, "went out with Crossing 7"],
])("with which release something goes out: %j", (of, words) => {
  expect(goesOutWords({ name: "Crossing 7", ...of }, "2026-06-03")).toBe(words);
});
