import { READERS } from "../../bin/fuzz-data/readers";
import { fuzz } from "../../bin/fuzz-data/run";
import { textsFrom } from "../../bin/fuzz-data/texts";

/* A short run of bin/fuzz, with the same texts each time. */

test.each(READERS.map((r) => [r.name, r] as const))(
  "%s: no crash, no hang, no silence",
  async (_name, reader) => {
    expect(await fuzz(reader, 250, 20_261)).toEqual([]);
  },
);

test("the run finds what crashes, what keeps silent, and what it was", async () => {
  const faulty = {
    name: "faulty",
    sample: "abc",
    read: (text: string) =>
      text.includes("<")
        ? (undefined as unknown as { x: string }).x
        : text.includes("a")
          ? "silence"
          : null,
  };
  const faults = await fuzz(faulty, 400, 1);
  expect(faults.map((f) => f.what.split(":")[0]).sort()).toEqual(["TypeError", "silence"]);
  expect(faults.find((f) => f.what === "silence")?.text).toContain("a");
});

test("texts are the same for the same seed, and not all alike", () => {
  const [one, two] = [textsFrom(7), textsFrom(7)];
  const texts = Array.from({ length: 50 }, () => one("sample"));
  expect(Array.from({ length: 50 }, () => two("sample"))).toEqual(texts);
  expect(new Set(texts).size).toBeGreaterThan(40);
});
