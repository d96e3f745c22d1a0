import { optionsIn } from "@/core/item/own-field-options";

/** Ids that tell in which order they were given out. */
const ids = () => {
  let n = 0;
  return () => `new ${++n}`;
};
const known = [
  { id: "q", name: "North quay", offered: true },
  { id: "d", name: "Dry dock", offered: false },
];
const names = (text: string, before = known) =>
  optionsIn(text, before, ids()).map((o) => `${o.offered ? "" : "not "}${o.name}`);

describe("the choices of a field as they are typed, one a line", () => {
  it("keep their ids, and new ones come behind", () =>
    expect(optionsIn("North quay\nSouth quay", known, ids())).toEqual([
      { id: "q", name: "North quay", offered: true },
      { id: "d", name: "Dry dock", offered: false },
      { id: "new 1", name: "South quay", offered: true },
    ]));

  it("are kept and not offered once they are named no more", () =>
    expect(names("Slip")).toEqual(["not North quay", "not Dry dock", "Slip"]));

  it("are offered again under the name they had, capitals apart", () =>
    expect(names("north QUAY\ndry dock")).toEqual(["North quay", "Dry dock"]));

  it("are each one once, without blanks around them and without empty lines", () =>
    expect(names(" Slip \n\n  \nSlip\n", [])).toEqual(["Slip"]));

  it("are cut at 80 characters, and 100 at most", () => {
    expect(names("x".repeat(90), [])).toEqual(["x".repeat(80)]);
    const many = Array.from({ length: 120 }, (_, i) => `Berth ${i}`).join("\n");
    expect(names(many, [])).toHaveLength(100);
  });
});
