import fc from "fast-check";
import { readTable } from "@/core/formats/report-table";
import { itemColumns, matchItemColumns } from "@/core/item/csv/columns";
import type { TableGround } from "@/core/item/csv/ground";
import { itemsOfTable } from "@/core/item/csv/read-items";
import { itemsAsTable, type WrittenItem } from "@/core/item/csv/write-items";
import { CLASSES_OF_SERVICE, EDITABLE_FIELDS, PRIORITIES } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { PLAIN_FIELD, type OwnField } from "@/core/item/own-field";

const own: OwnField[] = [
  { ...PLAIN_FIELD, id: "berth", name: "Berth", kind: "number", position: 0 },
  {
    ...PLAIN_FIELD,
    id: "boats",
    name: "Boats",
    kind: "many of",
    options: [
      { id: "o1", name: "Sandpiper", offered: true },
      { id: "o2", name: "Curlew", offered: true },
    ],
    position: 1,
  },
];
const ground: TableGround = {
  types: [
    { id: "story", name: "Story" },
    { id: "voyage", name: "Voyage" },
  ],
  people: [
    { id: "noor", name: "Noor Bakri" },
    { id: "ivo", name: "Ivo Sandell" },
  ],
  teams: [{ id: "ticketing", name: "Ticketing" }],
  sprints: [{ id: "s1", name: "Sprint 1" }],
  releases: [{ id: "r1", name: "Crossing 1" }],
  states: {
    story: [
      { id: "backlog", name: "Backlog", kind: "unstarted" },
      { id: "building", name: "Building", kind: "working" },
    ],
    voyage: [{ id: "imagined", name: "Imagined", kind: "unstarted" }],
  },
  own,
};
const ids = () => {
  let n = 0;
  return () => `00000000-0000-4000-8000-${String(++n).padStart(12, "0")}`;
};
const read = (text: string) => {
  const table = readTable(text);
  const match = matchItemColumns(table.header, itemColumns(own));
  return itemsOfTable(table, match, { ground, newId: ids() });
};

describe("columns of a table of items", () => {
  test("are found by their names, by words for them, and none is taken twice", () => {
    const match = matchItemColumns(
      ["ID", "Summary", "Status", "Points", "berth", "Waits for", "Title"],
      itemColumns(own),
    );
    expect(match).toEqual({
      key: 0,
      title: 6,
      state: 2,
      estimate: 3,
      "own:berth": 4,
      waitsFor: 5,
    });
  });
});

describe("items of a table", () => {
  test("say what their cells say, as names of the project", () => {
    const { items, problems } = read(
      [
        "Title;Type;State;Assignee;Estimate;Due;Labels;Sprint;Berth;Boats;Seen by",
        "Fog horn;story;building;noor bakri;1,5;3.12.2026;fog, horn;sprint 1;4;Curlew | Sandpiper;yes",
      ].join("\n"),
    );
    expect(problems).toEqual([]);
    expect(items[0].item).toMatchObject({
      fields: {
        title: "Fog horn",
        typeId: "story",
        assigneeId: "noor",
        estimate: 1.5,
        dueOn: "2026-12-03",
        labels: ["fog", "horn"],
        sprintId: "s1",
        restricted: true,
      },
      own: { berth: 4, boats: ["o2", "o1"] },
      state: "building",
    });
  });

  test("where a state is the first of its workflow nothing has to be moved", () => {
    expect(read("Title,State\nFog horn,backlog").items[0].item.state).toBeNull();
  });

  test.each([
    ["Assignee\nNobody Known", "Assignee: there is no person here that is called “Nobody Known”."],
    ["Estimate\nmany", "Estimate: “many” is no number."],
    ["Estimate\n-3", "Estimate:"],
    ["Due\n31.2.2026", "Due: “31.2.2026” is no day."],
    ["Priority\nsoon", "Priority: “soon” is none of low, normal, high, urgent."],
    ["State\nSunk", "State: there is no state “Sunk”"],
    ["Boats\nTitanic", "Boats: there is no choice of Boats “Titanic”."],
    ["Class\nfixed date", "Class: a fixed date needs a day"],
  ])("a row with %j is left out with the reason", (column, sentence) => {
    const [name, value] = column.split("\n");
    const { items, problems } = read(`Title,${name}\nFog horn,${value}\nGood one,`);
    expect(items.map(({ item }) => item.fields.title)).toEqual(["Good one"]);
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatchObject({ row: 2, cells: ["Fog horn", value] });
    expect(problems[0].sentence).toContain(sentence);
  });

  test("a row without a title is left out", () => {
    expect(read("Title,Points\n,3\nGood one,").problems[0].sentence).toBe("It has no title.");
  });

  test("parents come before what is under them, by the keys of the file, else as keys that are there", () => {
    const { items } = read(
      [
        "Key,Title,Type,Under,Waits for",
        "A-3,Leaf,Story,A-2,a-1 TIX-9",
        "A-1,Root,Voyage,,",
        "A-2,Branch,Story,A-1,",
        "A-4,Elsewhere,Story,TIX-7,",
      ].join("\n"),
    );
    const byTitle = new Map(items.map(({ item }) => [item.fields.title, item]));
    const at = (title: string) => items.findIndex(({ item }) => item.fields.title === title);
    expect(at("Root")).toBeLessThan(at("Branch"));
    expect(at("Branch")).toBeLessThan(at("Leaf"));
    expect(byTitle.get("Leaf")).toMatchObject({
      parent: byTitle.get("Branch")!.id,
      waitsFor: [byTitle.get("Root")!.id, "TIX-9"],
    });
    expect(byTitle.get("Elsewhere")!.parent).toBe("TIX-7");
  });

  test("what stands under itself, or under a row that is left out, is left out too", () => {
    const { items, problems } = read(
      [
        "Key,Title,Under,Points",
        "A-1,One,A-2,",
        "A-2,Two,A-1,",
        "A-3,Bad,,lots",
        "A-4,Below bad,A-3,",
        "A-5,Fine,,",
      ].join("\n"),
    );
    expect(items.map(({ item }) => item.fields.title)).toEqual(["Fine"]);
    expect(problems.map(({ row }) => row)).toEqual([2, 3, 4, 5]);
  });

  test("a key that stands there twice is said", () => {
    const { notes, items } = read("Key,Title\nA-1,One\nA-1,Two");
    expect(items).toHaveLength(2);
    expect(notes).toEqual(["Several rows have the key A-1: the first is meant."]);
  });
});

test("items that are written are read back as the same", () => {
  const word = fc.stringMatching(/^[A-Za-zÄö][A-Za-z ,"0-9]{0,20}[a-z]$/);
  const items = fc.array(
    fc.record({
      title: word,
      description: fc.constantFrom("", 'Line one\nline "two", with; signs', "1,5 boats"),
      priority: fc.constantFrom(...PRIORITIES),
      classOfService: fc.constantFrom(...CLASSES_OF_SERVICE.filter((c) => c !== "fixed date")),
      estimate: fc.constantFrom(null, 0, 0.5, 13),
      dueOn: fc.constantFrom(null, "2026-12-03"),
      assigneeId: fc.constantFrom(null, "noor", "ivo"),
      sprintId: fc.constantFrom(null, "s1"),
      labels: fc.subarray(["fog", "salt, and sand", "tide"]),
      restricted: fc.boolean(),
      place: fc.constantFrom(null, "Pier 3"),
    }),
    { minLength: 1, maxLength: 6 },
  );
  fc.assert(
    fc.property(items, (all) => {
      const written = all.map((fields, i): WrittenItem => ({
        key: `TIX-${i + 1}`,
        fields: { ...NEW_ITEM, ...fields, typeId: "story" } as WrittenItem["fields"],
        own: i % 2 === 0 ? { berth: i, boats: ["o1", "o2"] } : {},
        stateName: i % 3 === 0 ? "Building" : "Backlog",
        parentKey: i === 0 ? null : "TIX-1",
        waitsFor: i === 0 ? [] : ["TIX-1"],
      }));
      const back = read(itemsAsTable(written, ground));
      expect(back.problems).toEqual([]);
      const first = back.items[0].item.id;
      expect(back.items.map(({ item }) => item)).toEqual(
        written.map(({ fields, own: said, stateName }, i) => ({
          id: expect.any(String),
          fields: Object.fromEntries(
            EDITABLE_FIELDS.filter((id) => {
              const value = fields[id];
              return (
                value !== null && value !== "" && !(Array.isArray(value) && value.length === 0)
              );
            }).map((id) => [id, fields[id]]),
          ),
          own: said,
          state: stateName === "Building" ? "building" : null,
          parent: i === 0 ? null : first,
          waitsFor: i === 0 ? [] : [first],
        })),
      );
    }),
    { numRuns: 100 },
  );
});
