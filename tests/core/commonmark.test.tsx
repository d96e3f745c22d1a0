import { tests } from "commonmark-spec";
import { renderToStaticMarkup } from "react-dom/server";
import { Words } from "@/ui/kit/words";

/*
 * The examples of the CommonMark specification 0.31.2 (John MacFarlane; here the package
 * commonmark-spec), written as people's words are: with the sanitiser on, HTML as text, pictures as
 * their words.
 */

interface Example {
  number: number;
  section: string;
  markdown: string;
  html: string;
}

const EXAMPLES: Example[] = tests.map((example) => ({
  ...example,
  markdown: example.markdown.replaceAll("→", "\t"),
  html: example.html.replaceAll("→", "\t"),
}));

/** What is different on purpose, by what the example is about. */
const HTML_IN_IT = /^(?:HTML blocks|Raw HTML)$/;
const onPurpose = ({ section, html, markdown }: Example): boolean =>
  HTML_IN_IT.test(section) ||
  section === "Images" ||
  /<img|<a href="(?!https?:|mailto:|[/#]|[\w.%-]*")/.test(html) ||
  /<(?:div|pre|del|table|td|i|b|p|a|!--|bab|responsive|http[^>]*\s)[\s>]/.test(markdown);

/** Markup alone, with characters as themselves and without what only spaces it out. */
const bare = (html: string): string =>
  html
    .replace(/^<div class="words">|<\/div>$/g, "")
    .replace(/ (?:rel|target|title|class|start)="[^"]*"/g, "")
    .replaceAll("&quot;", '"')
    .replaceAll("&#x27;", "'")
    .replace(/\s*\/>/g, ">")
    .replace(/\s*\n\s*/g, "\n")
    .replace(/>\s+|\s+</g, (gap) => gap.trim())
    .trim();

const shown = ({ markdown }: Example) => bare(renderToStaticMarkup(<Words text={markdown} />));

/** Examples that are written otherwise, and why. */
const OTHERWISE: Record<string, number[]> = {
  "HTML in it stays in view as text": [201, 491, 524, 536],
  "GFM makes links of addresses by themselves": [602, 606, 608, 611, 612],
};

test("examples of the specification are written as it says, but for what is different on purpose", () => {
  const asked = EXAMPLES.filter((example) => !onPurpose(example));
  expect(asked.length).toBeGreaterThan(530);
  const otherwise = asked.filter((example) => shown(example) !== bare(example.html));
  expect(otherwise.map(({ number }) => number).toSorted((a, b) => a - b)).toEqual(
    Object.values(OTHERWISE)
      .flat()
      .toSorted((a, b) => a - b),
  );
});

test("whatever an example says, nothing but harmless markup comes of it", () => {
  const allowed =
    /^(?:div|p|em|strong|code|pre|a|ul|ol|li|blockquote|h[1-6]|hr|br|del|input|table|thead|tbody|tr|th|td|sup|section)$/;
  for (const { markdown } of EXAMPLES) {
    const html = renderToStaticMarkup(<Words text={markdown} />);
    for (const [, tag] of html.matchAll(/<\/?([a-z][a-z0-9-]*)/gi)) expect(tag).toMatch(allowed);
    expect(html).not.toMatch(/<[^>]*\son[a-z]+=/i);
    for (const [, href] of html.matchAll(/<a[^>]*href="([^"]*)"/g))
      expect(href).not.toMatch(/^\s*(?:javascript|data|vbscript):/i);
  }
});
