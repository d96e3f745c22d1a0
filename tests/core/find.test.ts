import fc from "fast-check";
import { hitParts, HIT_BEGINS, HIT_ENDS, nameParts } from "@/core/find/excerpt";
import { findQuery } from "@/core/find/contract";
import { bestOf, howWell } from "@/core/find/how-well";
import { findPlaces, PROJECT_PLACES } from "@/core/find/places";
import { MOST_WORDS, numbersBeginning, readWanted } from "@/core/find/wanted";
import { may } from "@/core/people/authorise";
import { refused } from "./setup/refused";

describe("what somebody looks for", () => {
  test("words in small letters, each once; signs part them and mean nothing else", () => {
    expect(readWanted("  Quay's   GATE-fog & gate | !fog ").words).toEqual([
      "quay",
      "s",
      "gate",
      "fog",
    ]);
    expect(readWanted("%_'\"\\ & | ! ( <-> ").words).toEqual([]);
    expect(readWanted("Fährzeit 船 ø3").words).toEqual(["fährzeit", "船", "ø3"]);
    expect(readWanted("a b c d e f g h i j").words).toHaveLength(MOST_WORDS);
  });
  test("a key, the beginning of one, a number, a reference", () => {
    expect(readWanted("tix-12")).toMatchObject({
      key: { prefix: "TIX", number: 12 },
      keyPart: { prefix: "TIX", digits: "12" },
    });
    expect(readWanted("tix 12")).toMatchObject({ key: null, keyPart: { prefix: "TIX" } });
    expect(readWanted("12").keyPart).toEqual({ prefix: null, digits: "12" });
    expect(readWanted("012").keyPart).toBeNull();
    expect(readWanted("deck 9 door")).toMatchObject({ key: null, keyPart: null });
    expect(readWanted("r-4kx").reference).toBe("R-4KX");
    expect(readWanted("r 4kx").reference).toBeNull();
  });
  test("a search of any letters is read, and holds nothing that means something to a database", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 200 }), (text) => {
        for (const word of readWanted(text).words) expect(word).toMatch(/^[\p{L}\p{N}]{1,40}$/u);
      }),
    );
  });
  test("numbers that begin with the same digits, and no others", () => {
    expect(numbersBeginning("12").slice(0, 3)).toEqual([
      [12, 12],
      [120, 129],
      [1200, 1299],
    ]);
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 99_999 }),
        fc.integer({ min: 1, max: 999_999_999 }),
        (digits, number) => {
          const within = numbersBeginning(`${digits}`).some(
            ([from, to]) => from <= number && number <= to,
          );
          expect(within).toBe(`${number}`.startsWith(`${digits}`));
        },
      ),
    );
  });
  test("an address of a search is 200 letters at most, without what no database takes", () => {
    expect(findQuery.parse({ q: "ga\u0000te\u0000" })).toEqual({ q: "gate" });
    expect(findQuery.parse({})).toEqual({ q: "" });
    expect(refused(findQuery, { q: "x".repeat(201) })).toHaveLength(1);
  });
});

describe("how well a name fits", () => {
  test.each([
    ["gate fog", "Gate fog", 0],
    ["gate fo", "Gate fog at Gannet", 1],
    ["fog gan", "Gate fog at Gannet", 2],
    ["og ann", "Gate fog at Gannet", 3],
    ["fog rain", "Gate fog at Gannet", null],
    ["c++", "C plus", 1],
    ["", "anything", null],
  ])("%j in %j", (typed, name, fit) => {
    expect(howWell(readWanted(typed).words, name)).toBe(fit);
  });
  test("the best first, by whichever of its names fits best; others as they came", () => {
    const all = [
      { id: "a", names: ["Storm desk"] },
      { id: "b", names: ["Desk", "where reports wait"] },
      { id: "c", names: ["Quay"] },
      { id: "d", names: ["Old desk", "desks"] },
      { id: "e", names: ["Tide desk"] },
    ];
    expect(bestOf(["desk"], all, ({ names }) => names).map(({ id, fit }) => [id, fit])).toEqual([
      ["b", 0],
      ["d", 1],
      ["a", 2],
      ["e", 2],
    ]);
  });
});

describe("where the words stand", () => {
  test("the parts of a name, put together, are the name; the hits are the words", () => {
    expect(nameParts("The gate of Gate quay", ["gate", "qu"])).toEqual([
      { text: "The ", hit: false },
      { text: "gate", hit: true },
      { text: " of ", hit: false },
      { text: "Gate", hit: true },
      { text: " ", hit: false },
      { text: "qu", hit: true },
      { text: "ay", hit: false },
    ]);
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), fc.array(fc.string()), (name, words) => {
        expect(
          nameParts(name, words)
            .map(({ text }) => text)
            .join(""),
        ).toBe(name);
      }),
    );
  });
  test("marks of the database become parts, and lines one", () => {
    const marked = `the ${HIT_BEGINS}fog${HIT_ENDS}\n was ${HIT_BEGINS}thick${HIT_ENDS}`;
    expect(hitParts(marked)).toEqual([
      { text: "the ", hit: false },
      { text: "fog", hit: true },
      { text: " was ", hit: false },
      { text: "thick", hit: true },
    ]);
    expect(hitParts("")).toEqual([]);
  });
});

describe("places", () => {
  const project = (key: string, name: string, role: "lead" | "observer" = "lead") => ({
    key,
    name,
    may: (action: Parameters<typeof may>[1]) => may(role, action),
  });
  const projects = [project("TIX", "Ticket app"), project("GATE", "Quay gates", "observer")];
  const others = [{ name: "Across: Mine", path: "/across/mine" }];
  const paths = (typed: string, here: string | null = "TIX") =>
    findPlaces(readWanted(typed).words, { projects, others, here }).map(({ path }) => path);
  test("those of the project in which one is by their own name, or by what people call them", () => {
    expect(paths("mailbox")).toEqual(["/p/TIX/intake/mailbox"]);
    expect(paths("wip")).toEqual(["/p/TIX/design?place=boards"]);
    expect(paths("mine")).toEqual(["/across/mine"]);
  });
  test("those of another where the words name it too, as far as one may go there", () => {
    expect(paths("gate learn")).toEqual(["/p/GATE/learn"]);
    expect(paths("gate mailbox")).toEqual([]);
    expect(paths("ticket design", null)).toEqual(["/p/TIX/design", "/p/TIX/design?place=history"]);
  });
  test("a project by its key or its name", () => {
    expect(paths("gate")[0]).toBe("/p/GATE/flow");
    expect(paths("ticket")[0]).toBe("/p/TIX/flow");
  });
  test("no two places of a project have one name or one address", () => {
    expect(new Set(PROJECT_PLACES.map(({ path }) => path)).size).toBe(PROJECT_PLACES.length);
    expect(new Set(PROJECT_PLACES.map(({ name }) => name)).size).toBe(PROJECT_PLACES.length);
  });
});
