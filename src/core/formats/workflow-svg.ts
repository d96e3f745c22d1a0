import { shorten } from "./cut-text";
import {
  detourOf,
  FURTHER,
  mapOf,
  type Station,
  type Track,
  type WorkflowMap,
} from "@/core/workflow/layout";
import type { Workflow } from "@/core/workflow/workflow";
import type { StateKind } from "@/core/workflow/state";
import { escapeText } from "./xml";

const INK = "#20272b";
const SOFT = "#5a656b";
const LINE = "#cfd4d2";
const ACCENT = "#1f6b57";
const PAPER = "#fbfaf6";
/** So much of a verb has room between two states. */
const MOST_VERB = 18;

/**
 * A workflow's map as an SVG that stands alone: its own colours, no fonts or files from elsewhere.
 */
export function writeSvg(workflow: Workflow): string {
  const map = mapOf(workflow);
  const { width, height, rails } = map;
  const at = new Map(map.stations.map((s) => [s.state.id, s]));
  const parts = [
    `<rect width="${width}" height="${height}" fill="${PAPER}"/>`,
    ...[rails.high, rails.low].map(
      (y) => `<line x1="0" x2="${width}" y1="${y}" y2="${y}" stroke="${LINE}"/>`,
    ),
    ...map.tracks.map((t) => track(map, t, at.get(t.from)!, at.get(t.to)!)),
    ...map.stations.map(station),
    ...(map.fromAnywhere.length > 0
      ? [
          label(
            { x: width - 8, y: 18 },
            `from anywhere: ${map.fromAnywhere.map((t) => `${t.verb} to ${at.get(t.to)!.state.name}`).join(", ")}`,
            'text-anchor="end"',
            { fill: SOFT },
          ),
        ]
      : []),
  ];
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="sans-serif" role="img"><title>${escapeText(workflow.name)}</title>\n${parts.join("\n")}\n</svg>\n`;
}

const label = (
  { x, y }: { x: number; y: number },
  text: string,
  more: string,
  { fill = INK, size = 11 } = {},
) =>
  // A halo keeps lines from running through the words.
  `<text x="${x}" y="${y}" font-size="${size}" fill="${fill}" stroke="${PAPER}" stroke-width="4" stroke-linejoin="round" paint-order="stroke" ${more}>${escapeText(text)}</text>`;

function track(map: WorkflowMap, t: Track, from: Station, to: Station): string {
  if (t.course === "main") {
    const verb = label(
      { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 + 3 },
      shorten(t.transition.verb, MOST_VERB),
      'text-anchor="middle"',
      { fill: SOFT, size: 10 },
    );
    return `<line x1="${from.x}" y1="${from.y}" x2="${to.x}" y2="${to.y}" stroke="${ACCENT}" stroke-width="2.4"/>${verb}`;
  }
  const under = t.course === "under";
  const { from: begin, along, to: end } = detourOf(map, t, from, to);
  const barb = under ? end.y + 5 : end.y - 5;
  const name = label(
    { x: (begin.x + end.x) / 2, y: along + 3 },
    t.transition.verb,
    'text-anchor="middle"',
    { fill: SOFT, size: 10 },
  );
  const line = `M${begin.x} ${begin.y} V${along} H${end.x} V${end.y}`;
  const tip = `M${end.x - 4} ${barb} L${end.x} ${end.y} L${end.x + 4} ${barb}`;
  return `<path d="${line}" fill="none" stroke="${SOFT}"${under ? ' stroke-dasharray="4 3"' : ""}/><path d="${tip}" fill="none" stroke="${SOFT}"/>${name}`;
}

const MARKS: Record<StateKind, (x: number, y: number) => string> = {
  working: (x, y) => `<rect x="${x - 8}" y="${y - 8}" width="16" height="16" fill="${ACCENT}"/>`,
  waiting: (x, y) =>
    `<path d="M${x - 10} ${y - 7} h20 l-10 16 z" fill="${PAPER}" stroke="${SOFT}" stroke-width="1.8"/>`,
  unstarted: (x, y) =>
    `<circle cx="${x}" cy="${y}" r="7.5" fill="#fff" stroke="${INK}" stroke-width="1.8"/>`,
  finished: (x, y) => `<circle cx="${x}" cy="${y}" r="8" fill="${INK}"/>`,
};

function station({ state, x, y, nameAbove, further }: Station): string {
  const out = further ? FURTHER : 0;
  return (
    MARKS[state.kind](x, y) +
    label(
      { x, y: nameAbove ? y - 16 - out : y + 26 + out },
      state.name,
      'text-anchor="middle" font-weight="650"',
    )
  );
}
