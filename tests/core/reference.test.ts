import { referencesIn, withoutReference } from "@/core/intake/reference";

test("references are found as people write them, each once and not too many", () => {
  expect(referencesIn("About r-tx260 and R-4LPD5F (R-TX260).")).toEqual(["R-TX260", "R-4LPD5F"]);
  expect(referencesIn("R-TX2601X, R-TX2, XR-TX260, R TX260, R-ÄTX260")).toEqual([]);
  const many = Array.from({ length: 9 }, (_, i) => `R-TX26${i}`);
  expect(referencesIn(many.join(" "))).toEqual(many.slice(0, 5));
  expect(withoutReference("A way to find our car (r-tx260)")).toBe("A way to find our car");
  expect(withoutReference("Boat (R-TX260) late")).toBe("Boat (R-TX260) late");
});
