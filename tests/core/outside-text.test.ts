import { expectAllLinear, expectLinear, stepsOf, toItsEnd } from "./setup/steps";
import { withoutQuote } from "@/core/formats/mail-quote";
import { answered, ownWords, plainHeaders, titleOf } from "@/core/formats/mail-text";
import { htmlText } from "@/core/formats/html-text";
import { isTame } from "@/core/formats/markdown-bounds";
import { readCloudEvents } from "@/core/formats/cloud-event";
import { readDeliveryEvent } from "@/core/formats/delivery-event";
import { readTable } from "@/core/formats/report-table";
import { readScxml } from "@/core/formats/scxml-read";
import { readWorkflowJson } from "@/core/formats/workflow-json";
import { readXml } from "@/core/formats/xml";
import { parseCel } from "@/core/condition/cel-parse";
import { completions } from "@/core/condition/complete";
import { parseFormula } from "@/core/condition/formula-text";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";

/*
 * Every parser of text from outside: twice the text takes at most about twice the steps, whatever
 * it is made of.
 */

/** Pieces that mails, tables and documents are made of, and that made some parser slow before. */
const PIECES = [
  '"a<b@c>:\n"',
  "a <x@",
  "x@",
  ">",
  "> quoted\n",
  "-- \n",
  "On a day somebody wrote:\n",
  "on 1 2 wrote:",
  "From: quay 4\n",
  "Subject: x\n",
  "re: ",
  "<",
  "<a@b>",
  "<a",
  "<!--",
  "<a>",
  "</a>",
  "<a b='",
  '<a b="c">',
  "&",
  "&amp;",
  "<![CDATA[",
  "]]>",
  "<?a ",
  "\n",
  "\r",
  " ",
  "\t",
  ",",
  ";",
  '"',
  '""',
  "'",
  "\\",
  "(",
  "((",
  "[",
  "{",
  "a",
  "é",
  "🚢",
  "\u0000",
  "\ud800",
];

test("the counter itself tells one pass from two", () => {
  const quadratic = (text: string) => {
    let n = 0;
    for (const a of text) for (const b of text) if (a === b) n += 1;
    return n;
  };
  expect(() => expectLinear("quadratic", (n) => "a".repeat(n), quadratic, 300)).toThrow(
    /quadratic/,
  );
  const makes = [(n: number) => "b".repeat(n), (n: number) => "ab".repeat(n)];
  const one = (text: string) => (text.startsWith("a") ? quadratic(text) : text.split(""));
  expect(() =>
    expectAllLinear(
      [...makes, ...makes.slice(0, 1), ...makes.slice(0, 1)].map((make) => ({
        name: "one of four",
        make,
      })),
      one,
      100,
    ),
  ).toThrow(/one of four/);
  expect(stepsOf(() => [..."abcdefgh"].map((c) => c + c))).toBeGreaterThan(7);
});

/** How a text is read, and how often a piece is put into it; a bound of its own may be near. */
const READERS: [string, (text: string) => unknown, number?][] = [
  ["quotes of mails", withoutQuote],
  ["own words", ownWords],
  ["titles", (text) => titleOf(text, text)],
  ["headers", plainHeaders],
  ["ids of answers", (text) => answered({ references: [text], "in-reply-to": [text] })],
  ["HTML", htmlText],
  ["what may be read as Markdown", isTame],
  ["XML", readXml],
  ["XML inside", (text) => readXml(`<r>${text}</r>`)],
  ["tables", readTable],
  ["tables after a header", (text) => readTable(`title,what happened\n${text}`)],
  ["conditions", (text) => parseCel(text, EMPTY_VOCABULARY), 100],
  [
    "conditions inside",
    (text) => parseCel(`item.title == "${text}" && item.estimate > 3`, EMPTY_VOCABULARY),
    100,
  ],
  [
    "conditions in brackets",
    (text) =>
      parseCel(`${"(".repeat(text.length)}true${")".repeat(text.length)}`, EMPTY_VOCABULARY),
    100,
  ],
  ["formulas", (text) => parseFormula(text, EMPTY_VOCABULARY), 30],
  ["completions", (text) => completions(text, text.length, EMPTY_VOCABULARY), 100],
  ["JSON", readWorkflowJson],
  ["events", (text) => readCloudEvents("application/cloudevents+json", text)],
  [
    "deliveries",
    (text) =>
      readDeliveryEvent({
        specversion: "1.0",
        id: "1",
        source: "s",
        type: "dev.cdevents.change.merged.0.3.0",
        data: { subject: { id: "c", content: {} }, customData: { words: text } },
      }),
  ],
  [
    "SCXML",
    (text) =>
      readScxml(
        `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0">${text}</scxml>`,
        EMPTY_VOCABULARY,
        () => "id",
      ),
  ],
];

/** So few are counted together that one that takes its square would stand out among them. */
const TOGETHER = 4;
const GROUPS = Array.from({ length: Math.ceil(PIECES.length / TOGETHER) }, (_, i) => {
  const pieces = PIECES.slice(i * TOGETHER, (i + 1) * TOGETHER);
  return { pieces, names: pieces.map((piece) => JSON.stringify(piece)).join(" or ") };
});

describe.each(READERS)("%s", (name, read, times = 1_500) => {
  beforeAll(() => {
    // The first time, packages and tables are still being set up.
    for (const piece of PIECES) toItsEnd(() => read(piece));
  });
  test.each(GROUPS)("$names over and over, then something else", ({ pieces }) =>
    expectAllLinear(
      pieces.map((piece) => ({
        name: `${name}, ${JSON.stringify(piece)}`,
        make: (n: number) => `${piece.repeat(n)}x\n>y`,
      })),
      read,
      times,
    ),
  );
  test("pieces in turn", () =>
    expectLinear(
      name,
      (n) => Array.from({ length: n }, (_, i) => PIECES[(i * 7) % PIECES.length]).join(""),
      read,
      times,
    ));
});
