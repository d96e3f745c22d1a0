import type { ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import { TextButton } from "@/ui/kit/button";
import { behindWords } from "@/core/ship/open-work";
import type { CommitsOpen } from "./use-commits-open";
import type { CodeChange, CodeWork } from "@/core/ship/item-code";
import type { DiffSize } from "@/core/ship/code-event";

/** Words about a piece of work, with what is good and bad of them told by more than colour. */
const Good = ({ children }: { children: ReactNode }) => (
  <b className="font-semibold text-done">{children}</b>
);
const Bad = ({ children }: { children: ReactNode }) => (
  <b className="font-semibold text-alarm">{children}</b>
);
const Look = ({ children }: { children: ReactNode }) => (
  <b className="font-semibold text-signal-ink">{children}</b>
);

/** "5 files, +121 −34" */
export const SizeWords = ({ size: { files, insertions, deletions } }: { size: DiffSize }) => (
  <span className="whitespace-nowrap tabular-nums">
    {counted(files, "file")}, +{insertions} −{deletions}
  </span>
);

const CHECKS = {
  passed: <Good>checks passed</Good>,
  failed: <Bad>checks failed</Bad>,
  running: <span>checks run</span>,
};

/**
 * Everything that is to be said of a piece of work, one thing after the other.
 * @param commitsOpen whether its commits are shown, and where
 */
export function WorkWords({
  work: { change, commits, size },
  name,
  commitsOpen: { open, turn, list },
}: {
  work: CodeWork;
  name: string;
  commitsOpen: CommitsOpen;
}) {
  const told: ReactNode[] = [
    ...(commits.length > 0
      ? [
          <TextButton key="commits" aria-expanded={open} aria-controls={list} onClick={turn}>
            {counted(commits.length, "commit")} <span className="sr-only">of {name}</span>
          </TextButton>,
        ]
      : []),
    ...(size ? [<SizeWords key="size" size={size} />] : []),
    ...(change ? changeTold(change) : []),
  ];
  return (
    <>
      {told.map((words, i) => (
        <span key={i}>
          {i > 0 && " · "}
          {words}
        </span>
      ))}
    </>
  );
}

function changeTold(change: CodeChange): ReactNode[] {
  const { reviews, checks, status, behind, mergesCleanly } = change;
  const open = status === "open";
  return [
    ...reviews.map(({ by, verdict, ofOlder }) => {
      const older = ofOlder ? ", before its last commits" : "";
      const words = `${verdict} by ${by.name}${older}`;
      if (ofOlder) return <span key={by.name}>{words}</span>;
      return verdict === "approved" ? (
        <Good key={by.name}>{words}</Good>
      ) : (
        <Bad key={by.name}>{words}</Bad>
      );
    }),
    ...(open && reviews.length === 0 ? [<Look key="review">nobody has looked at it</Look>] : []),
    ...(checks ? [CHECKS[checks]] : []),
    ...(open && mergesCleanly === false ? [<Bad key="clean">does not merge cleanly</Bad>] : []),
    ...(open && behind ? [<Look key="behind">{behindWords(behind)}</Look>] : []),
  ];
}
