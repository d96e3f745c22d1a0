import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { writeCsv, writeTabs } from "@/core/formats/csv";
import { cellText, sumWords, tableAsked, tableBody } from "@/core/item/list/table";
import { tableLines, type TableLine } from "@/core/item/list/table-lines";
import { PLAIN_LOOK } from "@/core/view/look";
import { VOCABULARY } from "./setup/conditions";

describe("the lines of a table", () => {
  test("are the heads of its groups with the rows of the open ones, as when written out one by one", () => {
    const groups = fc.array(
      fc.record({ count: fc.integer({ min: 1, max: 9 }), closed: fc.boolean() }),
      {
        minLength: 1,
      },
    );
    fc.assert(
      fc.property(groups, fc.boolean(), (all, grouped) => {
        const written: TableLine[] = [];
        let row = 0;
        all.forEach(({ count, closed }, group) => {
          if (grouped) written.push({ kind: "group", group });
          for (let i = 0; i < count; i++, row++)
            if (!closed) written.push({ kind: "row", group, row });
        });
        const lines = tableLines(all, grouped, (group) => all[group].closed);
        expect(lines.count).toBe(written.length);
        expect(written.map((_, line) => lines.at(line))).toEqual(written);
      }),
    );
  });
  test("of nothing are none", () => {
    expect(tableLines([], true, () => false).count).toBe(0);
    expect(tableLines([{ count: 0 }], false, () => false).count).toBe(0);
  });
});

describe("what a column comes to", () => {
  const number = { kind: "number", of: 2, sum: 7, mean: 3.5, median: 3.5 } as const;
  const date = { kind: "date", of: 1, earliest: "2026-12-03", latest: "2026-12-09" } as const;
  test("is a sum, of what lasts the mean, of days the first", () => {
    expect(sumWords("estimate", number, VOCABULARY)).toEqual({ label: "sum", words: "7" });
    expect(sumWords("age", number, VOCABULARY)).toEqual({ label: "mean", words: "3.5 days" });
    expect(sumWords("dueOn", date, VOCABULARY)).toEqual({ label: "earliest", words: "3 Dec" });
  });
  test("is nothing where nothing is said", () => {
    expect(sumWords("estimate", { ...number, of: 0 }, VOCABULARY)).toBeNull();
    expect(sumWords("priority", null, VOCABULARY)).toBeNull();
  });
});

test("cells are written as they are read, numbers and days as every program writes them", () => {
  expect(cellText("typeId", "bug", VOCABULARY)).toBe("Bug");
  expect(cellText("estimate", 2.5, VOCABULARY)).toBe("2.5");
  expect(cellText("dueOn", "2026-12-03", VOCABULARY)).toBe("2026-12-03");
  expect(cellText("labels", ["gate", "night"], VOCABULARY)).toBe("gate, night");
  expect(cellText("blocked", true, VOCABULARY)).toBe("yes");
  expect(cellText("assigneeId", null, VOCABULARY)).toBe("");
});

test("comma-separated values are read back by a strict reader, but for what a spreadsheet would compute", () => {
  const cell = fc.stringMatching(/^[a-z ",;\r\n\t=+@'é–-]{0,12}$/);
  const table = fc
    .integer({ min: 1, max: 4 })
    .chain((width) =>
      fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1 }),
    );
  fc.assert(
    fc.property(table, (rows) => {
      const read: string[][] = parse(writeCsv(rows), {
        record_delimiter: "\r\n",
        relax_column_count: false,
      });
      const harmless = (text: string) =>
        /^[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/.test(text) ? `'${text}` : text;
      expect(read).toEqual(rows.map((cells) => cells.map(harmless)));
    }),
  );
});

test("tab-separated text keeps every cell in its place", () => {
  expect(
    writeTabs([
      ["a\tb", "c\r\nd"],
      ["", "e"],
    ]),
  ).toBe("a b\tc d\n\te");
});

test("what is asked of a table is bounded", () => {
  const { condition } = tableAsked(PLAIN_LOOK);
  const asks = (more: object) => tableBody.safeParse({ condition, ...more }).success;
  expect(asks({})).toBe(true);
  expect(asks({ limit: 201 })).toBe(false);
  expect(asks({ skip: 1_001 })).toBe(false);
  expect(asks({ columns: ["links"] })).toBe(false);
  expect(asks({ columns: Array(21).fill("age") })).toBe(false);
  expect(asks({ after: "x".repeat(20_001) })).toBe(false);
});
