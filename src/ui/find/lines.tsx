"use client";
import { Command } from "cmdk";
import type { ReactNode } from "react";
import type { TextPart } from "@/core/find/excerpt";
import type { Fit } from "@/core/find/how-well";

/** One line of the box: what is there, and what choosing it does. */
export interface Line {
  id: string;
  fit: Fit;
  /** Its kind in a sign, its key, or the key of the keyboard that does the same. */
  lead: ReactNode;
  words: readonly TextPart[];
  /** At its right, in soft ink. */
  more?: string;
  /** Where the words stand in what is written there. */
  excerpt?: readonly TextPart[];
  run: () => void;
  /** Goes on to what can be done with it. */
  into?: () => void;
  /** Whether the box stays open. */
  stays?: boolean;
}

export interface LineGroup {
  title: string;
  lines: Line[];
}

const fitOf = ({ lines }: LineGroup): Fit => Math.min(...lines.map(({ fit }) => fit)) as Fit;

/** Groups that hold something, the best first; of the same fit in the order in which they stand. */
export const inOrderOfFit = (groups: readonly LineGroup[]): LineGroup[] =>
  groups.filter(({ lines }) => lines.length > 0).toSorted((a, b) => fitOf(a) - fitOf(b));

/** A text in which what was looked for is marked. */
function Marked({ parts }: { parts: readonly TextPart[] }) {
  return parts.map(({ text, hit }, i) =>
    hit ? (
      <mark key={i} className="find-hit">
        {text}
      </mark>
    ) : (
      <span key={i}>{text}</span>
    ),
  );
}

/** A group of lines under its title. */
export function Lines({
  group: { title, lines },
  onRun,
}: {
  group: LineGroup;
  onRun: (line: Line) => void;
}) {
  return (
    <Command.Group heading={title} className="find-group">
      {lines.map((line) => (
        <Command.Item
          key={line.id}
          value={line.id}
          onSelect={() => onRun(line)}
          className="find-line"
        >
          <span className="find-lead">{line.lead}</span>
          <span className="min-w-0 flex-1">
            <span className="block truncate">
              <Marked parts={line.words} />
            </span>
            {line.excerpt && line.excerpt.length > 0 && (
              <span className="block truncate text-[12.5px] text-ink-soft">
                <Marked parts={line.excerpt} />
              </span>
            )}
          </span>
          {line.more && (
            <span className="shrink-0 text-[12.5px] text-ink-soft max-sm:hidden">{line.more}</span>
          )}
        </Command.Item>
      ))}
    </Command.Group>
  );
}
