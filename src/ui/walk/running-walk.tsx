"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { itemContract } from "@/core/item/contract";
import { counted } from "@/core/formats/counted";
import { afterItem, beforeItem, passedBy, type WalkSection } from "@/core/walk/sections";
import type { Walk } from "@/core/walk/walk";
import { Button, TextButton } from "@/ui/kit/button";
import { KeysHelp } from "@/ui/kit/keys-help";
import { usePanel } from "@/ui/kit/panel-context";
import { queryOf } from "@/ui/kit/request";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import type { WalkSend } from "./use-walk";
import { WalkClock } from "./walk-clock";
import { WalkCourse } from "./walk-course";
import { WalkItem, type Noting } from "./walk-item";
import { WalkNotes } from "./walk-notes";

const WALK_KEYS: [string, string][] = [
  ["→", "go on to the next item"],
  ["←", "back to the one before"],
  ["j", "pass by all that nothing is wrong with"],
  ["n", "agree on something"],
  ["m", "to the moves of the item"],
  ["g", "give it to somebody"],
  ["l", "talk about it later"],
  ["?", "this list"],
];

/** So many of the next items stand at the right. */
const NEXT_SHOWN = 6;

/** Puts the focus onto something of the item in the middle. */
const focusOn = (selector: string) =>
  document.querySelector<HTMLElement>(`[data-walk-item] ${selector}`)?.focus();

/** The keys of a walk that the box offers too. */
const WALK_OFFERED = {
  n: "Agree on something",
  l: "Leave something for later",
  j: "Pass by all that nothing is wrong with",
  "?": "The keys of this screen",
};

/** A walk that is going on: everybody sees the same item, whoever says where to goes on leads. */
export function RunningWalk({
  walk,
  view,
  sections,
  isWrong,
  ageDays,
  send,
}: {
  walk: Walk;
  view: BoardView;
  sections: readonly WalkSection[];
  isWrong: (card: Card) => boolean;
  ageDays: (card: Card) => number;
  send: WalkSend;
}) {
  const [noting, setNoting] = useState<Noting>(null);
  const [help, setHelp] = useState(false);
  const { id, itemId } = walk;
  const seen = new Set(walk.seen);
  const all = sections.flatMap(({ items }) => items);
  const current = view.cards.find((card) => card.id === itemId) ?? null;
  const at = all.findIndex((card) => card.id === itemId);
  const next = afterItem(sections, itemId);
  const may = view.rights.edit;
  useReadAhead(next);
  const go = (card: Card | null, passed: readonly Card[] = []) => {
    setNoting(null);
    if (card && may)
      void send({ kind: "go", id, itemId: card.id, passed: passed.map((one) => one.id) });
  };
  const passBy = () => {
    const found = passedBy(sections, itemId, isWrong);
    go(found.next ?? found.passed.at(-1) ?? null, found.passed);
  };
  const note = (kind: Noting) => current && may && setNoting(kind);
  useScreenKeys(
    {
      ArrowRight: () => go(next),
      ArrowLeft: () => go(beforeItem(sections, itemId)),
      j: passBy,
      n: () => note("agree"),
      l: () => note("later"),
      m: () => focusOn("[data-moves] button"),
      g: () => focusOn("[data-give] button"),
      "?": () => setHelp(true),
    },
    { part: "walk", words: WALK_OFFERED },
  );
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-[52px] shrink-0 items-center gap-4 border-b border-line px-4">
        <h1 className="text-[18px]">Walk of {view.board.name}</h1>
        <span className="text-[13px] text-ink-soft">
          {walk.order} · {at < 0 ? counted(all.length, "item") : `${at + 1} of ${all.length}`}
        </span>
        <span className="text-[13px] text-ink-soft">{walk.ledBy.name} leads</span>
        <span className="flex-1" />
        <WalkClock startedAt={walk.startedAt} minutes={walk.minutes} />
        {may && <Button onClick={() => void send({ kind: "end", id })}>End it</Button>}
      </div>
      <div className="flex min-h-0 flex-1">
        <WalkCourse sections={sections} seen={seen} currentId={itemId} onGo={may ? go : null} />
        <div className="min-w-0 flex-1 overflow-y-auto px-8 py-5" data-walk-item="">
          {current ? (
            <WalkItem
              card={current}
              view={view}
              ageDays={ageDays(current)}
              walkId={id}
              noting={noting}
              onNoting={setNoting}
              send={send}
            />
          ) : (
            <NoItem begun={walk.seen.length > 0} />
          )}
          {may && (
            <div className="mt-5 flex flex-wrap gap-2">
              <Button look="accent" disabled={!next} onClick={() => go(next)}>
                {current ? "Go on" : "Begin"} <kbd>→</kbd>
              </Button>
              <Button disabled={!current} onClick={() => note("agree")}>
                Agree on something <kbd>n</kbd>
              </Button>
              <Button disabled={!current} onClick={() => note("later")}>
                Talk later <kbd>l</kbd>
              </Button>
              <Button look="quiet" onClick={passBy}>
                Pass by what is fine <kbd>j</kbd>
              </Button>
            </div>
          )}
        </div>
        <WalkAside
          walk={walk}
          next={all.slice(at + 1, at + 1 + NEXT_SHOWN)}
          may={may}
          send={send}
          ageDays={ageDays}
          onGo={go}
        />
      </div>
      <KeysHelp
        open={help}
        onClose={() => setHelp(false)}
        title="Keys of the walk"
        keys={WALK_KEYS}
      />
    </div>
  );
}

/** What comes next is read while everybody still looks at this one. */
function useReadAhead(card: Card | null): void {
  const client = useQueryClient();
  const key = card?.key;
  useEffect(() => {
    if (key) void client.prefetchQuery(queryOf(itemContract.read, { params: { key } }));
  }, [client, key]);
}

const NoItem = ({ begun }: { begun: boolean }) => (
  <p className="text-[16px] text-ink-soft">
    {begun
      ? "What everybody looks at is outside your view, or is not on this board any more."
      : "Everybody who opens this page comes along. Begin when they are here."}
  </p>
);

/** What was agreed on so far, what is left for later, and what comes. */
function WalkAside({
  walk,
  next,
  may,
  send,
  ageDays,
  onGo,
}: {
  walk: Walk;
  next: readonly Card[];
  may: boolean;
  send: WalkSend;
  ageDays: (card: Card) => number;
  onGo: (card: Card) => void;
}) {
  const { openItem } = usePanel();
  const parts = [
    ["Agreed so far", "agreed", "Nothing yet."],
    ["To talk about later", "later", "Nothing yet."],
  ] as const;
  return (
    <aside
      aria-label="What came of it"
      className="w-[270px] shrink-0 overflow-y-auto border-l border-line bg-sheet px-4 py-4"
    >
      {parts.map(([title, kind, none]) => {
        const notes = walk.notes.filter((note) => note.kind === kind);
        return (
          <section key={kind} className="mb-4" aria-label={title}>
            <h2 className="text-[14px]">{title}</h2>
            {notes.length === 0 && <p className="text-[13px] text-ink-soft">{none}</p>}
            <WalkNotes
              notes={notes}
              tool={(note) =>
                may && (
                  <TextButton
                    className="text-[12px]"
                    onClick={() => void send({ kind: "take back", id: walk.id, noteId: note.id })}
                  >
                    take back
                  </TextButton>
                )
              }
            />
          </section>
        );
      })}
      <section aria-label="Then">
        <h2 className="text-[14px]">Then</h2>
        <ul>
          {next.map((card) => (
            <li key={card.id}>
              <button
                type="button"
                className="block w-full border-b border-line py-1.5 text-left hover:bg-accent-soft"
                onClick={() => (may ? onGo(card) : openItem(card.key))}
              >
                <span className="text-[12.5px] text-ink-soft">
                  <span className="key">{card.key}</span> {ageDays(card)} d
                  {card.classOfService === "expedite" && " · expedite"}
                  {card.openBlockers.length > 0 && <b className="text-alarm"> · blocked</b>}
                </span>
                <span className="block font-semibold">{card.title}</span>
              </button>
            </li>
          ))}
        </ul>
      </section>
    </aside>
  );
}
