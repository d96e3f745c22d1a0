"use client";
import type { VerdictKind } from "@/core/intake/verdict";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";

export const DESK_KEYS: [string, string][] = [
  ["↑ ↓", "the report before or after"],
  ["a", "accept"],
  ["m", "merge into the item that looks most like it"],
  ["q", "ask the requester"],
  ["p", "park until a date, or until an item is done"],
  ["d", "decline"],
  ["t", "keep that you tried to make it happen"],
  ["x", "select it; the next verdict is on all that are selected"],
  ["X", "select all that are shown"],
  ["u", "undo the last verdict, then the one before it"],
  ["/", "find a report by reference, words or mail address"],
  ["Ctrl Enter", "give the verdict that is open"],
  ["Esc", "back to reading"],
  ["?", "this list"],
];

const VERDICT_KEYS: Record<string, VerdictKind> = {
  a: "accept",
  m: "merge",
  q: "ask",
  p: "park",
  d: "decline",
};

/** The keys of the desk that the box offers too. */
const DESK_OFFERED = {
  a: "Accept the report",
  m: "Merge the report",
  q: "Ask the requester",
  p: "Park the report",
  d: "Decline the report",
  u: "Undo the last verdict",
  "/": "Find a report",
  "?": "The keys of this screen",
};

/** What a key does now; left out where it can do nothing. */
interface DeskActs {
  onNext?: () => void;
  onPrevious?: () => void;
  onVerdict?: (kind: VerdictKind) => void;
  onTry?: () => void;
  onSelect?: () => void;
  onSelectAll?: () => void;
  onSelectNone?: () => void;
  onUndo?: () => void;
  onFind: () => void;
  onHelp: () => void;
}

/** The desk by the keyboard alone, wherever the focus is outside of fields. */
export function useDeskKeys(acts: DeskActs): void {
  const { onVerdict } = acts;
  const verdicts = Object.entries(VERDICT_KEYS).map(([key, kind]) => [
    key,
    onVerdict && (() => onVerdict(kind)),
  ]);
  useScreenKeys(
    {
      ArrowDown: acts.onNext,
      ArrowUp: acts.onPrevious,
      t: acts.onTry,
      x: acts.onSelect,
      X: acts.onSelectAll,
      Escape: acts.onSelectNone,
      u: acts.onUndo,
      "/": acts.onFind,
      "?": acts.onHelp,
      ...Object.fromEntries(verdicts),
    },
    { part: "desk", words: DESK_OFFERED },
  );
}
