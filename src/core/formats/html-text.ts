import { convert } from "html-to-text";

/** Of a longer page only this much is read. */
const MOST_HTML = 1024 * 1024;

/**
 * The words of a page of HTML: as plain text with its lists, lines and the addresses of its links;
 * scripts, styles and pictures are no words. What nests deeper than any letter does is left out
 * with "…".
 */
export function htmlText(html: string): string {
  return convert(html.slice(0, MOST_HTML), {
    wordwrap: false,
    limits: { maxInputLength: MOST_HTML, maxDepth: 60, maxChildNodes: 5_000, ellipsis: "…" },
    selectors: [
      { selector: "img", format: "skip" },
      { selector: "script", format: "skip" },
      { selector: "style", format: "skip" },
      { selector: "a", options: { hideLinkHrefIfSameAsText: true, ignoreHref: false } },
      ...["h1", "h2", "h3", "h4", "h5", "h6"].map((selector) => ({
        selector,
        options: { uppercase: false },
      })),
    ],
  });
}
