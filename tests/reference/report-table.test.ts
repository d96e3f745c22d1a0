import fc from "fast-check";
import { decodeText } from "@/core/formats/decode-text";
import {
  leftOutTable,
  matchColumns,
  MOST_ROWS,
  readTable,
  reportsOf,
} from "@/core/formats/report-table";
import { runs } from "@tests/core/setup/runs";

/**
 * RFC 4180, "Common Format and MIME Type for Comma-Separated Values (CSV) Files", section 2: each
 * rule with its own example's shape.
 */
describe("RFC 4180", () => {
  const rows = (text: string) => readTable(`a,b,c\r\n${text}`).rows;
  test.each<[string, string, string[][]]>([
    [
      "1, lines end with CRLF",
      "aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n",
      [
        ["aaa", "bbb", "ccc"],
        ["zzz", "yyy", "xxx"],
      ],
    ],
    [
      "2, the last line may have no break",
      "aaa,bbb,ccc\r\nzzz,yyy,xxx",
      [
        ["aaa", "bbb", "ccc"],
        ["zzz", "yyy", "xxx"],
      ],
    ],
    ["4, spaces are part of a field", "aaa, b ,ccc", [["aaa", " b ", "ccc"]]],
    [
      "5, fields may be quoted",
      '"aaa","bbb","ccc"\r\nzzz,yyy,xxx',
      [
        ["aaa", "bbb", "ccc"],
        ["zzz", "yyy", "xxx"],
      ],
    ],
    [
      "6, breaks, quotes and commas inside quotes",
      '"aaa","b \r\nbb","c,c"\r\nzzz,yyy,xxx',
      [
        ["aaa", "b \r\nbb", "c,c"],
        ["zzz", "yyy", "xxx"],
      ],
    ],
    ["7, a quote is written twice", '"aaa","b""bb","ccc"', [["aaa", 'b"bb', "ccc"]]],
  ])("rule %s", (_rule, text, expected) => expect(rows(text)).toEqual(expected));

  test("whatever is written by the rules is read as it was", () => {
    const quoted = (cell: string) => `"${cell.replaceAll('"', '""')}"`;
    fc.assert(
      fc.property(
        fc.array(
          fc.array(
            fc
              .string({ unit: "grapheme" })
              .map((s) => s.replaceAll("\u0000", "").replaceAll("\ufeff", "")),
            { minLength: 3, maxLength: 3 },
          ),
          { minLength: 1, maxLength: 8 },
        ),
        (table) => {
          const text = ["a,b,c", ...table.map((row) => row.map(quoted).join(","))].join("\r\n");
          expect(readTable(text).rows).toEqual(table);
        },
      ),
      { numRuns: runs(200) },
    );
  });
});

test("semicolons, tabs and a byte order mark are understood", () => {
  expect(readTable("\ufefftitle;where\nDark ticket;Quay 2")).toEqual({
    header: ["title", "where"],
    rows: [["Dark ticket", "Quay 2"]],
    lines: [2],
  });
  expect(readTable("title\twhere\nDark ticket\tQuay 2").rows).toEqual([["Dark ticket", "Quay 2"]]);
});

describe("as programs write tables", () => {
  test("line ends of several kinds in one file lose no row", () => {
    expect(readTable("title\r\none\ntwo\rthree\r\nfour").rows.flat()).toEqual([
      "one",
      "two",
      "three",
      "four",
    ]);
    expect(readTable('title\n"a\r\nb"\r\n"c\nd"\n').rows.flat()).toEqual(["a\r\nb", "c\nd"]);
  });
  test("separators inside a quoted heading are no separators", () => {
    expect(readTable('"title, in a few words; please";where\nDark;Quay 2')).toMatchObject({
      header: ["title, in a few words; please", "where"],
      rows: [["Dark", "Quay 2"]],
    });
    expect(readTable('"a\n,,,";b\n1;2').rows).toEqual([["1", "2"]]);
  });
  test("a first line that names the separator", () => {
    expect(readTable("sep=;\r\ntitle;where\r\nDark, very;Quay 2")).toEqual({
      header: ["title", "where"],
      rows: [["Dark, very", "Quay 2"]],
      lines: [3],
    });
    expect(readTable("\ufeffSEP=|\ntitle|where\nDark|Quay 2").rows).toEqual([["Dark", "Quay 2"]]);
    expect(readTable("sep,where\nDark,Quay 2").header).toEqual(["sep", "where"]);
  });
  test("a quotation mark inside a field stands as it is, and costs no other row", () => {
    expect(
      readTable('title,where\n5" screen is dark,Quay 2\nthe "left" gate,Quay 4\nnext,Quay 1').rows,
    ).toEqual([
      ['5" screen is dark', "Quay 2"],
      ['the "left" gate', "Quay 4"],
      ["next", "Quay 1"],
    ]);
  });
  test("lines are counted as an editor counts them: blank ones, and those inside a field", () => {
    const table = readTable('title,mail\n\n\none,\n"two\nlines",\n\n,nothing\n');
    expect(table.lines).toEqual([4, 5, 8]);
    expect(reportsOf(table, matchColumns(table), "2026-11-27").problems).toEqual([
      {
        row: 8,
        sentence: "It says nothing in the column for a few words.",
        cells: ["", "nothing"],
      },
    ]);
  });
  test.each<[string, number[], string, string]>([
    ["UTF-8", [0x47, 0xc3, 0xa4, 0x73, 0x74, 0x65], "Gäste", "UTF-8"],
    ["Latin-1", [0x47, 0xe4, 0x73, 0x74, 0x65], "Gäste", "Windows-1252"],
    ["Windows-1252", [0x93, 0x80, 0x94], "“€”", "Windows-1252"],
    ["UTF-16, little end first", [0xff, 0xfe, 0x47, 0, 0xe4, 0], "Gä", "UTF-16"],
    ["UTF-16, big end first", [0xfe, 0xff, 0, 0x47, 0, 0xe4], "Gä", "UTF-16"],
  ])("letters written in %s", (_name, bytes, text, encoding) =>
    expect(decodeText(Uint8Array.from(bytes))).toEqual({ text, encoding }),
  );
});

test.each<[string, string, RegExp]>([
  ["nothing", "", /no rows/],
  ["only a header", "title,where", /no rows/],
  ["a picture", "\u0089PNG\u0000\u0000", /no text file/],
  ["a quote that never ends", 'title\n"dark', /cannot be read/],
  ["too many rows", `title\n${"x\n".repeat(MOST_ROWS + 1)}`, /more than 5,000 rows/],
  ["more than 5 MB", "x".repeat(5 * 1024 * 1024 + 1), /5 MB/],
])("%s is refused", (_what, text, complaint) => expect(() => readTable(text)).toThrow(complaint));

const NO_MATCH = {
  title: null,
  happened: null,
  reproduce: null,
  place: null,
  mail: null,
  receivedOn: null,
};

test("columns are matched by what they are called, each once", () => {
  const named = (...header: string[]) => matchColumns({ header, rows: [] });
  expect(
    named("Nr", "Subject", "Description", "Steps to reproduce", "Where", "E-mail", "Date"),
  ).toEqual({ title: 1, happened: 2, reproduce: 3, place: 4, mail: 5, receivedOn: 6 });
  expect(named("x", "y")).toEqual(NO_MATCH);
  // The very name goes before a word that it begins with.
  expect(named("Text", "What happened", "In a few words", "Name")).toEqual({
    ...NO_MATCH,
    title: 2,
    happened: 1,
  });
});

test("columns whose names say nothing are matched by what stands in them", () => {
  const rows = [
    ["17", "Gate hums", "guest@post.saltmarsh.example", "24.11.2026", "A long story."],
    ["18", "", "", "", ""],
    ["19", "No light", "other@post.saltmarsh.example", "2026-11-25", "Another."],
  ];
  const header = ["Nr", "Thing", "Who", "Then", "What happened"];
  const found = { ...NO_MATCH, title: 1, mail: 2, receivedOn: 3, happened: 4 };
  expect(matchColumns({ header, rows })).toEqual(found);
  // One cell that is something else, and it is no such column.
  const other = [...rows, ["20", "n".repeat(201), "nobody", "soon", ""]];
  expect(matchColumns({ header, rows: other })).toEqual({ ...NO_MATCH, title: 2, happened: 4 });
  expect(matchColumns({ header, rows: [["1", "", "", "", ""]] })).toEqual({
    ...NO_MATCH,
    happened: 4,
  });
});

test("rows that are no report are told by their line, and the others are taken", () => {
  const table = readTable(
    [
      "title,text,mail",
      "Dark ticket,It is dark,p@post.example",
      ",nothing,",
      `${"x".repeat(201)},long,`,
      "Wrong mail,x,nobody",
      "Only a title,,",
    ].join("\n"),
  );
  const { reports, problems } = reportsOf(table, matchColumns(table), "2026-11-27");
  expect(reports.map((r) => [r.row, r.report.title, r.report.happened])).toEqual([
    [2, "Dark ticket", "It is dark"],
    [6, "Only a title", "Only a title"],
  ]);
  expect(problems.map((p) => [p.row, p.sentence])).toEqual([
    [3, "It says nothing in the column for a few words."],
    [4, "Its few words are more than 200 characters."],
    [5, "“nobody” is no mail address."],
  ]);
});

test("the day it came is read in several ways; what is none, or still to come, and what was said before is left out", () => {
  const table = readTable(
    [
      "title,date",
      "Dark,2026-11-23",
      "Dark,2026-11-24T08:15:00Z",
      "Dark,3.4.2026",
      "Dark,28/02/2026 10:00",
      "Dark,",
      "Dark,30.2.2026",
      "Dark,soon",
      "Dark,2026-11-28",
      "Dark , 2026-11-23",
    ].join("\n"),
  );
  const { reports, problems } = reportsOf(table, matchColumns(table), "2026-11-27");
  expect(reports.map((r) => r.report.receivedOn)).toEqual([
    "2026-11-23",
    "2026-11-24",
    "2026-04-03",
    "2026-02-28",
    null,
  ]);
  expect(problems.map((p) => [p.row, p.sentence])).toEqual([
    [7, "“30.2.2026” is no day that can be read. Write it as 2026-11-23 or 23.11.2026."],
    [8, "“soon” is no day that can be read. Write it as 2026-11-23 or 23.11.2026."],
    [9, "2026-11-28 is still to come."],
    [10, "It says the same as line 2."],
  ]);
});

test("what was left out is a table again, with what is wrong, and computes nothing in a spreadsheet", () => {
  const table = readTable('title,mail\n"two\nlines",nobody\n=1+1,also nobody,more');
  const { problems } = reportsOf(table, matchColumns(table), "2026-11-27");
  const text = leftOutTable(table, problems);
  const again = readTable(text);
  expect(again.header).toEqual(["title", "mail", "", "what is wrong"]);
  expect(again.rows).toEqual([
    ["two\nlines", "nobody", "", "“nobody” is no mail address."],
    ["'=1+1", "also nobody", "more", "“also nobody” is no mail address."],
  ]);
});
