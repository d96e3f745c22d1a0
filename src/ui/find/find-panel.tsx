"use client";
import { Command } from "cmdk";
import { ChevronRight } from "lucide-react";
import { useRouter } from "next/navigation";
import { useDeferredValue, useRef, useState, type KeyboardEvent } from "react";
import { readAcrossKey } from "@/core/across/place";
import { readWanted } from "@/core/find/wanted";
import { projectKeyOf } from "@/core/item/key";
import { usePanel } from "@/ui/kit/panel-context";
import { TopSheet } from "@/ui/kit/top-sheet";
import { offeredActs, type OfferedAct } from "@/ui/kit/offered-acts";
import { actLines, choiceLines } from "./act-lines";
import { foundGroups } from "./found-lines";
import { inOrderOfFit, Lines, type Line, type LineGroup } from "./lines";
import { useFound } from "./use-found";
import { useItemActs } from "./use-item-acts";
import "./find.css";

/** What was chosen on the way: an item to do something with, an act that needs a choice. */
type Step = { kind: "item"; key: string } | { kind: "act"; act: OfferedAct };

/** Keys that go to another line. */
const GOES = ["ArrowUp", "ArrowDown", "Home", "End"];

const ASKS = "Words, a key, a reference, a name, a place, or what to do";

/** What is found and what can be done, as one types. */
export function FindPanel({
  at,
  itemKey,
  onClose,
}: {
  at: string;
  /** The item that was in view. */
  itemKey: string | null;
  onClose: () => void;
}) {
  const [text, setText] = useState("");
  const [steps, setSteps] = useState<readonly Step[]>([]);
  const [marked, setMarked] = useState("");
  const [went, setWent] = useState(false);
  const write = (next: string) => {
    setText(next);
    setWent(false);
  };
  const after = useRef<(() => void) | null>(null);
  const step = (next: Step) => {
    setSteps((now) => [...now, next]);
    write("");
  };
  const back = () => {
    setSteps((now) => now.slice(0, -1));
    write("");
  };
  const last = steps.at(-1);
  const groups = useGroups({ at, text, last, itemKey, step });
  const lines = groups.shown.flatMap((group) => group.lines);
  // The best is chosen as it is found, until somebody goes to another line.
  const there = went && lines.some(({ id }) => id === marked);
  const chosen = there ? marked : (lines[0]?.id ?? "");
  const run = (line: Line) => {
    if (line.stays) return line.run();
    // First the box closes and gives the focus back, then what was chosen happens.
    after.current = line.run;
    onClose();
  };
  const onKey = (event: KeyboardEvent) => {
    if (GOES.includes(event.key)) setWent(true);
    if (event.key === "Backspace" && text === "" && last) {
      event.preventDefault();
      back();
    }
    const into = lines.find(({ id }) => id === chosen)?.into;
    if (event.key === "Tab" && !event.shiftKey && into) {
      event.preventDefault();
      into();
    }
  };
  return (
    <TopSheet
      title="Find or do"
      className="find-panel"
      onClose={onClose}
      onClosed={() => after.current?.()}
      onEscape={last ? back : null}
    >
      <Command
        label="What was found"
        shouldFilter={false}
        value={chosen}
        onValueChange={setMarked}
        onKeyDown={onKey}
      >
        <div className="find-ask">
          {steps.map((one, i) => (
            <span key={i} className="find-step">
              {one.kind === "item" ? one.key : one.act.words}
              <ChevronRight size={14} aria-hidden="true" />
            </span>
          ))}
          <Command.Input
            autoFocus
            value={text}
            onValueChange={write}
            maxLength={200}
            placeholder={last ? placeholderOf(last) : ASKS}
          />
        </div>
        <Command.List className="find-list" onPointerMove={() => setWent(true)}>
          {lines.length === 0 && <p className="px-3 py-4 text-ink-soft">{groups.empty}</p>}
          {groups.shown.map((group) => (
            <Lines key={group.title} group={group} onRun={run} />
          ))}
        </Command.List>
        <p className="find-foot">
          <kbd>↑</kbd> <kbd>↓</kbd> <kbd>Enter</kbd> chooses · <kbd>Tab</kbd> what can be done with
          an item · <kbd>Esc</kbd> {last ? "one step back" : "closes"}
        </p>
      </Command>
    </TopSheet>
  );
}

const placeholderOf = (step: Step): string =>
  step.kind === "item" ? "What to do with it" : step.act.written ? "Write or choose" : "Choose";

interface Asked {
  at: string;
  text: string;
  last: Step | undefined;
  itemKey: string | null;
  step: (next: Step) => void;
}

/** What stands in the box, in groups, and what is said where that is nothing. */
function useGroups({ at, text, last, itemKey, step }: Asked): {
  shown: LineGroup[];
  empty: string;
} {
  const router = useRouter();
  const panel = usePanel();
  const wanted = useDeferredValue(text);
  const { words } = readWanted(text);
  // What belongs here opens beside the page; what does not, on its own.
  const openItem = (key: string) =>
    readAcrossKey(at) !== null || projectKeyOf(key) === at
      ? panel.openItem(key)
      : router.push(`/p/${projectKeyOf(key)}/items/${key}`);
  const onStep = (act: OfferedAct) => step({ kind: "act", act });
  const key = last?.kind === "item" ? last.key : itemKey;
  const withItem = useItemActs(last?.kind === "act" ? null : key, openItem);
  const { found, items, readMore, looking, failed } = useFound(last ? "" : wanted, at);
  if (last?.kind === "act") {
    const lines = choiceLines(last.act, words, text);
    return {
      shown: inOrderOfFit([{ title: last.act.more ?? last.act.words, lines }]),
      empty: last.act.written ? "Write what it is." : "Nothing like that can be chosen here.",
    };
  }
  const ofItem = {
    title: `With ${withItem.title}`,
    lines: actLines(withItem.acts, words, onStep),
  };
  if (last)
    return {
      shown: inOrderOfFit([ofItem]),
      empty: withItem.failed
        ? "It did not get through. Try again."
        : "Nothing like that can be done with it.",
    };
  // Nothing moves under the hand: what is found first stands until the rest is there too.
  if (words.length === 0 && withItem.waiting) return { shown: [], empty: "Looking…" };
  const here = { title: "Here", lines: actLines(offeredActs(), words, onStep) };
  const shown = foundGroups(
    found,
    items,
    {
      words,
      at,
      go: (path) => router.push(path),
      openItem,
      intoItem: (of) => step({ kind: "item", key: of }),
      readMore,
    },
    [ofItem, here],
  );
  return { shown, empty: emptyWords({ words, looking, failed }) };
}

function emptyWords({
  words,
  looking,
  failed,
}: {
  words: readonly string[];
  looking: boolean;
  failed: boolean;
}): string {
  if (failed) return "It did not get through. Try again in a moment.";
  if (looking) return "Looking…";
  return words.length === 0
    ? "Type to find something, or to do something with what is in view."
    : "Nothing like that in what you can see.";
}
