import { isoDate } from "@/core/calendar/zone";
import { shortDate } from "@/core/calendar/day-words";
import { shorten } from "@/core/formats/cut-text";
import { escapeText } from "@/core/formats/xml";
import type { SegmentKind } from "./bars";
import type { TimelineRow } from "./rows";
import { ticksOf, type Range } from "./scale";
import type { TimelineView } from "./view";

const COLOURS: Record<SegmentKind, string> = {
  done: "#27457a",
  worked: "#00665a",
  blocked: "#b3263a",
  planned: "url(#hatch)",
};
const [INK, SOFT, LINE, PAPER, ALARM] = ["#17212b", "#55606b", "#d5d2ca", "#fbfaf6", "#b3263a"];
const NAMES = 300;
const HEAD = 58;
const ROW = 26;
const BEHIND = 140;
const FOOT = 26;
/** The names of two releases stand at least so far apart. */
const BETWEEN_NAMES = 64;
/** A page on its side, 281 by 194 mm of it within its margins, so wide that its words can be read. */
const SHEET = { width: 1_240, high: Math.floor((1_240 * 194) / 281) };
/** So many letters of a name have room. */
const MOST_NAME = 42;

interface Drawn {
  name: string;
  rows: readonly TimelineRow[];
  range: Range;
  /** A day is so many pixels wide. */
  day: number;
}

type Marks = Pick<TimelineView, "today" | "sprints" | "releases">;

/**
 * A timeline on pages to print, from its first day to its last on each: every one has the scale, the
 * marks and what its colours mean, and says which group it goes on with.
 */
export function timelinePages(marks: Marks, { name, rows, range }: Omit<Drawn, "day">): string[] {
  const day = (SHEET.width - NAMES - BEHIND) / (range.last + 1 - range.first);
  const fits = Math.floor((SHEET.high - HEAD - FOOT) / ROW);
  const pages: TimelineRow[][] = [];
  let group: TimelineRow | null = null;
  for (const row of rows) {
    let page = pages.at(-1);
    if (!page || page.length === fits) pages.push((page = []));
    if (row.kind === "group") group = row;
    else if (page.length === 0 && group?.kind === "group" && pages.length > 1)
      page.push({ ...group, label: `${group.label}, continued` });
    page.push(row);
  }
  return pages.map((page, i) => {
    const drawn = { name: pages.length > 1 ? `${name}, ${i + 1} of ${pages.length}` : name, range };
    return timelineSvg(marks, { ...drawn, rows: page, day });
  });
}

/**
 * A timeline as an SVG that stands alone, all of its rows: its own colours, no fonts or files from
 * elsewhere.
 */
export function timelineSvg(
  { today, sprints, releases }: Marks,
  { name, rows, range, day }: Drawn,
): string {
  const at = (of: number) => Math.round((NAMES + (of - range.first) * day) * 10) / 10;
  const width = Math.ceil(at(range.last + 1) + BEHIND);
  const height = HEAD + rows.length * ROW + FOOT;
  const inRange = ({ from, to }: { from: number; to: number }) =>
    to >= range.first && from <= range.last;
  const parts = [
    `<defs><pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="6" height="6" fill="#dfe5f0"/><line x1="0" x2="0" y1="0" y2="6" stroke="#27457a" stroke-width="1.4"/></pattern></defs>`,
    `<rect width="${width}" height="${height}" fill="${PAPER}"/>`,
    text({ x: 12, y: 22, size: 15, more: 'font-weight="700"' }, name),
    ...ticksOf(range, day).flatMap((tick) => [
      line(at(tick.day), [0, height], LINE),
      text({ x: at(tick.day) + 4, y: 14, fill: tick.strong ? INK : SOFT }, tick.label),
    ]),
    ...sprints.filter(inRange).flatMap((sprint, i) => {
      const y = i % 2 === 0 ? 26 : 36;
      const [x, end] = [Math.max(NAMES, at(sprint.from)), at(sprint.to + 1)];
      const named = text({ x: x + 4, y: y + 11, fill: SOFT, size: 9.5 }, sprint.name);
      const stroke = `<path d="M${x} ${y}H${end}" stroke="#00665a" stroke-width="2" fill="none"/>`;
      return end - x > 44 ? [stroke, named] : [stroke];
    }),
    ...releaseMarks(releases.filter(inRange), height, at),
    ...legend(height - 17),
    ...rows.map((row, i) => rowSvg(row, HEAD + i * ROW, at)),
    line(at(today), [40, height], INK, 'stroke-width="2"'),
    text({ x: at(today) + 4, y: 54, more: 'font-weight="700"' }, `today, ${said(today)}`),
  ];
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="sans-serif" role="img"><title>${escapeText(name)}</title>\n${parts.join("\n")}\n</svg>\n`;
}

/** Lines where releases go out, with their names as far as there is room. */
function releaseMarks(
  releases: Marks["releases"],
  height: number,
  at: (day: number) => number,
): string[] {
  let free = 0;
  return releases.flatMap(({ to, name }) => {
    const x = at(to + 1);
    const mark = line(x, [HEAD, height], "#27457a", 'stroke-dasharray="2 3"');
    if (x < free) return [mark];
    free = x + BETWEEN_NAMES;
    return [mark, text({ x: x + 4, y: height - 8, fill: "#27457a", size: 10 }, name)];
  });
}

const MEANT: Record<SegmentKind, string> = {
  done: "done",
  worked: "worked on",
  blocked: "blocked",
  planned: "planned",
};

/** What the colours mean. */
const legend = (y: number): string[] =>
  (Object.keys(MEANT) as SegmentKind[]).flatMap((kind, i) => {
    const x = 12 + i * 70;
    return [
      `<rect x="${x}" y="${y}" width="10" height="10" fill="${COLOURS[kind]}"/>`,
      text({ x: x + 14, y: y + 9, fill: SOFT, size: 9.5 }, MEANT[kind]),
    ];
  });

const said = (day: number) => shortDate(isoDate(day));

const line = (x: number, [from, to]: [number, number], stroke: string, more = "") =>
  `<line x1="${x}" x2="${x}" y1="${from}" y2="${to}" stroke="${stroke}" ${more}/>`;

const text = (
  {
    x,
    y,
    size = 11,
    fill = INK,
    more = "",
  }: {
    x: number;
    y: number;
    size?: number;
    fill?: string;
    more?: string;
  },
  words: string,
) =>
  `<text x="${x}" y="${y}" font-size="${size}" fill="${fill}" ${more}>${escapeText(words)}</text>`;

function rowSvg(row: TimelineRow, top: number, at: (day: number) => number): string {
  const base = top + 17;
  if (row.kind === "group")
    return text({ x: 12, y: base, more: 'font-weight="700"' }, `${row.label} (${row.count})`);
  const { item, bar, depth } = row;
  const strong = item.below ? 'font-weight="700"' : "";
  const name = shorten(
    item.below ? item.title : `${item.key} ${item.title}`,
    MOST_NAME - depth * 2,
  );
  const [y, high] = [top + 6, ROW - 12];
  const parts = [
    text({ x: 12 + depth * 14, y: base, more: strong }, name),
    ...bar.segments.map(
      ({ kind, from, to }) =>
        `<rect x="${at(from)}" y="${y}" width="${at(to + 1) - at(from)}" height="${high}" fill="${COLOURS[kind]}"/>`,
    ),
  ];
  const { fade } = bar;
  if (fade) {
    const [begin, even, sure] = [at(fade.from), at(fade.even + 1), at(fade.sure + 1)];
    parts.push(
      `<path d="M${begin} ${y}H${Math.max(begin, even)}L${sure} ${y + high / 2}L${Math.max(begin, even)} ${y + high}H${begin}z" fill="#00665a" opacity="0.25"/>`,
      text({ x: sure + 5, y: base, fill: SOFT, size: 10 }, `85 % by ${said(fade.sure)}`),
    );
  }
  if (item.dueOn !== null)
    parts.push(line(at(item.dueOn + 1), [y - 3, y + high + 3], ALARM, 'stroke-width="2"'));
  return parts.join("");
}
