import { asHtml } from "@/core/formats/as-html";
import { counted } from "@/core/formats/counted";
import { shorten } from "@/core/formats/cut-text";
import type { AlertLine } from "./alert";

/** A mail about what concerns somebody, said twice: as plain text and as HTML. */
export interface AlertLetter {
  subject: string;
  text: string;
  html: string;
}

/** What a mail tells of one item. */
export interface ToldOfItem {
  itemKey: string;
  title: string;
  stateName: string;
  projectName: string;
  /** Why the reader is told, the closest reason first. */
  why: readonly string[];
  lines: readonly AlertLine[];
  /** Where the item is. */
  page: string;
}

/** Where a letter leads to. */
export interface LetterWays {
  /** Where mail about this is stopped; null where a letter has no such address. */
  stop: string | null;
  /** Where the reader chooses how they hear. */
  rules: string;
  /** Whether an answer to it becomes a comment. */
  answerable: boolean;
}

const LONGEST_SUBJECT = 150;

/** The mail about one item, as soon as it has been quiet for a moment. */
export function alertLetter(told: ToldOfItem, ways: LetterWays): AlertLetter {
  const subject = shorten(
    `[${told.itemKey}] ${told.title}`.replace(/[\r\n]+/g, " "),
    LONGEST_SUBJECT,
  );
  const foot = [
    `You hear this because: ${told.why.join(", ")}.`,
    ways.answerable
      ? "An answer to this mail becomes a comment for the team."
      : "An answer to this mail is not read.",
  ];
  return {
    subject,
    text: [textOfItem(told), ...foot, ...waysText(ways)].join("\n\n"),
    html: page(itemHtml(told) + foot.map((line) => `<p>${asHtml(line)}</p>`).join(""), ways),
  };
}

/** So many items stand in a digest; of the others it says how many they are. */
export const MOST_IN_DIGEST = 60;

/** The mail that gathers what came since the one before. */
export function digestLetter(
  all: readonly ToldOfItem[],
  { title, list, more }: { title: string; list: string; more: number },
  ways: LetterWays,
): AlertLetter {
  const shown = all.slice(0, MOST_IN_DIGEST);
  const rest = all.length - shown.length + more;
  const count = counted(all.length + more, "item");
  const foot = rest > 0 ? `And ${counted(rest, "more item")}: all of them stand in your list.` : "";
  return {
    subject: `${title}: ${count}`,
    text: [
      ...shown.map(textOfItem),
      ...(foot ? [foot] : []),
      `Your list: ${list}`,
      ...waysText(ways),
    ].join("\n\n"),
    html: page(
      shown.map(itemHtml).join("") +
        (foot ? `<p>${asHtml(foot)}</p>` : "") +
        `<p><a href="${asHtml(list)}">Your list</a></p>`,
      ways,
    ),
  };
}

const sentence = ({ who, words }: AlertLine) => (who === null ? words : `${who} ${words}`);

function textOfItem({ itemKey, title, stateName, projectName, lines, page }: ToldOfItem): string {
  const said = lines.flatMap((line) => [
    `- ${sentence(line)}`,
    ...(line.said === null ? [] : [`  > ${line.said}`]),
  ]);
  return [`${itemKey} ${title}`, `${projectName}, ${stateName}`, ...said, page].join("\n");
}

function itemHtml({ itemKey, title, stateName, projectName, lines, page }: ToldOfItem): string {
  const said = lines.map(
    (line) =>
      `<li>${asHtml(sentence(line))}${
        line.said === null ? "" : `<blockquote>${asHtml(line.said)}</blockquote>`
      }</li>`,
  );
  return (
    `<h2><a href="${asHtml(page)}">${asHtml(itemKey)}</a> ${asHtml(title)}</h2>` +
    `<p>${asHtml(projectName)}, ${asHtml(stateName)}</p><ul>${said.join("")}</ul>`
  );
}

const waysText = ({ stop, rules }: LetterWays): string[] => [
  [...(stop === null ? [] : [`No more mail about this: ${stop}`]), `How you hear: ${rules}`].join(
    "\n",
  ),
];

function page(body: string, { stop, rules }: LetterWays): string {
  const foot = [
    ...(stop === null ? [] : [`<a href="${asHtml(stop)}">No more mail about this</a>`]),
    `<a href="${asHtml(rules)}">How you hear</a>`,
  ].join(" · ");
  return (
    `<!doctype html><html lang="en"><head><meta charset="utf-8"></head>` +
    `<body style="font:15px/1.5 sans-serif;max-width:40em">${body}<hr><p>${foot}</p></body></html>`
  );
}
