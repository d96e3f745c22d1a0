import { expectLinear, stepsOf } from "./setup/steps";
import { withoutQuote } from "@/core/formats/mail-quote";
import { answered, ownWords, plainHeaders, titleOf } from "@/core/formats/mail-text";
import { htmlText } from "@/core/formats/html-text";
import { isTame } from "@/core/formats/markdown-bounds";
import { readXml } from "@/core/formats/xml";

/* Every parser of text from outside: twice the text takes at most about twice the steps, whatever it is made of. */

/** Pieces that mails, tables and documents are made of, and that made some parser slow before. */
const PIECES = ['"a<b@c>:\n"', "a <x@", "x@", ">", "> quoted\n", "-- \n", "On a day somebody wrote:\n", "on 1 2 wrote:", "From: quay 4\n", "Subject: x\n", "re: ", "<", "<a@b>", "<a", "<!--", "<a>", "</a>", "<a b='", '<a b="c">', "&", "&amp;", "<![CDATA[", "]]>", "<?a ", "\n", "\r", " ", "\t", ",", ";", '"', '""', "'", "\\", "(", "((", "[", "{", "a", "é", "🚢", "\u0000", "\ud800"];

test("the counter itself tells one pass from two", () => {
  const quadratic = (text: string) => {
    let n = 0;
    for (const a of text) for (const b of text) if (a === b) n += 1;
    return n;
  };
  expect(() => expectLinear("quadratic", (n) => "a".repeat(n), quadratic, 300)).toThrow(/quadratic/);
  expect(stepsOf(() => [..."abcdefgh"].map((c) => c + c))).toBeGreaterThan(7);
});

const READERS: [string, (text: string) => unknown][] = [
  ["quotes of mails", withoutQuote],
  ["own words", ownWords],
  ["titles", (text) => titleOf(text, text)],
  ["headers", plainHeaders],
  ["ids of answers", (text) => answered({ references: [text], "in-reply-to": [text] })],
  ["HTML", htmlText],
  ["what may be read as Markdown", isTame],
  ["XML", readXml],
  ["XML inside", (text) => readXml(`<r>${text}</r>`)],
];

describe.each(READERS)("%s", (name, read) => {
  test.each(PIECES)("%j over and over", (piece) => {
    expectLinear(name, (n) => piece.repeat(n), read);
    expectLinear(`${name}, then something else`, (n) => `${piece.repeat(n)}x\n>y`, read);
  });
  test("pieces in turn", () => expectLinear(name, (n) => Array.from({ length: n }, (_, i) => PIECES[(i * 7) % PIECES.length]).join(""), read, 1_000));
});
