import { dutyHolders, type DutyHolder } from "@/core/people/duty";
import { nameKey, nameSchema } from "@/core/people/name";

const person = (id: string, role: "lead" | "member" | "observer", ...teamIds: string[]) => ({
  id,
  role,
  teamIds,
});

describe("who has a duty", () => {
  const people = [
    person("ines", "lead"),
    person("ivo", "member", "quay"),
    person("noor", "member", "quay", "deck"),
    person("gull", "observer", "quay"),
  ];
  const holders = (...named: [DutyHolder["duty"], DutyHolder["holderKind"], string][]) =>
    named.map(([duty, holderKind, holderId]) => ({ duty, holderKind, holderId }));
  const named = (all: DutyHolder[]) => dutyHolders("reviews", all, people).map((p) => p.id);

  it("are those who are named themselves", () =>
    expect(named(holders(["reviews", "person", "ivo"]))).toEqual(["ivo"]));

  it("are those of a team that is named, but nobody who only looks on", () =>
    expect(named(holders(["reviews", "team", "quay"]))).toEqual(["ivo", "noor"]));

  it("are both together, each once", () =>
    expect(
      named(
        holders(
          ["reviews", "team", "deck"],
          ["reviews", "person", "noor"],
          ["reviews", "person", "ines"],
        ),
      ),
    ).toEqual(["ines", "noor"]));

  it("is everybody who works there, where nobody of the project is named", () => {
    const everyone = ["ines", "ivo", "noor"];
    expect(named([])).toEqual(everyone);
    expect(named(holders(["tests", "person", "ivo"]))).toEqual(everyone);
    expect(named(holders(["reviews", "person", "gull"], ["reviews", "team", "hull"]))).toEqual(
      everyone,
    );
    // A person is no team, whatever both are called.
    expect(named(holders(["reviews", "team", "ivo"], ["reviews", "person", "quay"]))).toEqual(
      everyone,
    );
  });
});

describe("a name", () => {
  it("keeps one gap between its words, none around them, and one way to write a letter", () => {
    expect(nameSchema.parse("  Ines \t  Dahl ")).toBe("Ines Dahl");
    expect(nameSchema.parse("Zoe\u0308 Klint")).toBe("Zo\u00eb Klint");
  });

  it.each(["Anne-Marie O'Shea (quay)", "山田 さくら", "नूर बकरी", "J. van der Berg, jr.", "Deck 7"])(
    "may be %s",
    (name) => expect(nameSchema.parse(name)).toBe(name),
  );

  it.each([
    ["", "Say what you are called."],
    ["   ", "Say what you are called."],
    ["x".repeat(81), "A name has at most 80 characters."],
    ["-Ines", /^A name is of letters/],
    ["Ines <b>", /^A name is of letters/],
    ["Ines\u202eDahl", /^A name is of letters/],
  ])("is not %j", (name, says) => {
    const { error } = nameSchema.safeParse(name);
    expect(error?.issues[0].message).toMatch(says);
  });

  it("has 80 characters at most", () => expect(nameSchema.parse("x".repeat(80))).toHaveLength(80));

  it("is the same as another that reads like it", () => {
    const key = nameKey("Ines Dahl");
    expect(key).toBe("inesdahl");
    expect(nameKey("INES-DAHL")).toBe(key);
    expect(nameKey("Ｉｎｅｓ．Ｄａｈｌ")).toBe(key);
    expect(nameKey("Ines 2")).toBe("ines2");
    expect(nameKey("नूर")).toBe("नूर");
    expect(nameKey("Zoë")).not.toBe(nameKey("Zoe"));
  });
});
