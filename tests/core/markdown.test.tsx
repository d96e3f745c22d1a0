import { stepsOf } from "./setup/steps";
import { renderToStaticMarkup } from "react-dom/server";
import { isTame } from "@/core/formats/markdown-bounds";
import { ShownPlain } from "@/ui/kit/shown-plain";
import { Words } from "@/ui/kit/words";

const shown = (text: string) => renderToStaticMarkup(<Words text={text} />);

/** What reading takes more than one pass over, in any number. */
const WILD: [string, (n: number) => string][] = [
  ["quotes", (n) => ">".repeat(n)],
  ["quotes with gaps", (n) => "> ".repeat(n)],
  ["lists on one line", (n) => "- ".repeat(n)],
  ["numbered lists on one line", (n) => "1. ".repeat(n)],
  ["quotes and lists in turn", (n) => "> - 1) ".repeat(n)],
  [
    "lists that step to the right",
    (n) =>
      Array.from({ length: Math.ceil(Math.sqrt(2 * n)) }, (_, i) => `${" ".repeat(i)}- a`).join(
        "\n",
      ),
  ],
  [
    "quotes that grow",
    (n) =>
      Array.from({ length: Math.ceil(Math.sqrt(2 * n)) }, (_, i) => `${">".repeat(i)} a`).join(
        "\n",
      ),
  ],
  ["emphasis that never ends", (n) => "**a*".repeat(n)],
  ["emphasis of two kinds", (n) => `${"*_".repeat(n)}a${"_*".repeat(n)}`],
  ["struck out", (n) => "~a~~".repeat(n)],
  ["links that never end", (n) => "[a](".repeat(n)],
  ["brackets", (n) => "[".repeat(n)],
  ["pictures", (n) => "![".repeat(n)],
  ["code that never ends", (n) => "`a``".repeat(n)],
  ["tags", (n) => "<a ".repeat(n)],
  ["a wide table", (n) => `${"|a".repeat(n)}\n${"|-".repeat(n)}\n${"|a\n".repeat(n)}`],
  ["footnotes", (n) => "[^a]: ".repeat(n)],
  ["references", (n) => `${"[a]: b\n".repeat(n)}${"[a]".repeat(n)}`],
  ["addresses", (n) => "www.a.example/( ".repeat(n)],
  ["mail addresses", (n) => "a.b@".repeat(n)],
  ["backslashes", (n) => "\\".repeat(n)],
  ["empty lines", (n) => "a\n\n".repeat(n)],
];

/**
 * Steps a letter: what a table of a few cells takes. A second pass over twenty thousand letters
 * takes a hundred times as many.
 */
const MOST_STEPS_A_LETTER = 900;

test.each(WILD)(
  "%s: shown in steps that stay in proportion to the text, every letter of it",
  (_name, make) => {
    shown("a | b\n-|-\n*c* | [d](e)\n\n- f\n> g `h` <i> ~~j~~ www.k.example");
    for (const n of [10, 150, 1_000, 10_000]) {
      const text = make(n);
      let html = "";
      expect(stepsOf(() => (html = shown(text))) / (text.length + 200)).toBeLessThan(
        MOST_STEPS_A_LETTER,
      );
      expect(html).toMatch(/^<div class="words">/);
    }
  },
);

test("what people write is Markdown", () => {
  const text =
    "**Gate 4** hums:\n\n1. go to [the quay](https://quay.example)\n2. wait\n   - an hour\n     - or two\n\n> it hums\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n```\n> > > code_with_lines\n```";
  const html = shown(text);
  expect(isTame(text)).toBe(true);
  for (const tag of [
    "<strong>",
    "<ol>",
    "<ul>",
    "<blockquote>",
    "<table>",
    "<pre>",
    'href="https://quay.example"',
  ])
    expect(html).toContain(tag);
});

test("nothing in a text runs, and pictures from elsewhere are not fetched", () => {
  const html = shown(
    "Look: <script>alert(1)</script> [x](javascript:alert(1)) ![secret](https://elsewhere.example/x.png) <img src=x onerror=alert(1)>",
  );
  expect(html).not.toMatch(/<script|<img|href="javascript/);
  expect(html).toContain("[picture: secret]");
  for (const word of [
    "&lt;script&gt;alert(1)&lt;/script&gt;",
    "&lt;img src=x onerror=alert(1)&gt;",
  ])
    expect(html).toContain(word);
  expect(shown("before <b>bold</b> after\n\n<div>\na block\n</div>")).toMatch(
    /before &lt;b&gt;bold&lt;\/b&gt; after.*&lt;div&gt;\na block/s,
  );
});

test("a text beyond the bounds is shown as it is, with nothing left out", () => {
  const text = `${">".repeat(10_000)} the end`;
  expect(isTame(text)).toBe(false);
  expect(shown(text)).toContain("&gt;&gt; the end");
  expect(isTame("a".repeat(50_000))).toBe(false);
});

test("a text that breaks while it is drawn is shown plain", () => {
  expect(ShownPlain.getDerivedStateFromError()).toEqual({ broken: true });
  const broken = new ShownPlain({ plain: "as it is", children: "drawn" });
  expect(broken.render()).toBe("drawn");
  broken.state = { broken: true };
  expect(broken.render()).toBe("as it is");
});
