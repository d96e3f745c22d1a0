"use client";
import { useEffect, useMemo, useState } from "react";
import { talkContract } from "@/core/talk/contract";
import { threadsOf } from "@/core/talk/threads";
import { Button, TextButton } from "@/ui/kit/button";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { exact } from "@/ui/kit/time";
import { useKeptText } from "@/ui/kit/use-kept-text";
import type { ItemHandle } from "@/ui/item/use-item";
import { Composer } from "./composer";
import { HistoryLine, type HistoryEntry } from "./history-line";
import { commentPlace, useNamedComment } from "./use-named-comment";
import { ThreadLines } from "./thread-lines";

type Shown = "talk" | "changes" | "both";

const SHOWN: Record<Shown, string> = { talk: "Talk", changes: "Changes", both: "Both" };

/** What was said about an item and what changed on it, since when one last looked, and by whom. */
export function TalkSection({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const { talk } = view;
  const [kept, setShown] = useKeptText("talk, changes or both");
  const shown = kept in SHOWN ? (kept as Shown) : "talk";
  const [by, setBy] = useState("");
  const [all, setAll] = useState(false);
  const named = useNamedComment(talk.comments.map(({ id }) => id));
  const looked = useLook(view.key, talk.lookedAt);
  const entries = useMemo(() => entriesOf(handle, shown, by), [handle, shown, by]);
  const from = all || shown === "talk" ? 0 : Math.max(0, entries.length - LATEST);
  const since =
    looked === null
      ? -1
      : entries.findIndex((entry, i) => i >= from && isNews(entry, looked, view.me));
  const people = useMemo(() => peopleOf(handle), [handle]);
  const count = { talk: talk.comments.length, changes: changesOf(handle).length, both: null };
  return (
    <section aria-label="Talk and changes" className="talk">
      <div className="talk-head">
        <div role="group" aria-label="What is shown" className="tabs flex-1">
          {(Object.keys(SHOWN) as Shown[]).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={shown === one}
              data-state={shown === one ? "active" : "inactive"}
              className="tab"
              onClick={() => setShown(one)}
            >
              {SHOWN[one]} {count[one] !== null && <span className="talk-count">{count[one]}</span>}
            </button>
          ))}
        </div>
        <Select
          label="By whom"
          className="!w-auto shrink-0"
          plain
          value={by}
          options={[{ value: "", label: "by everybody" }, ...people]}
          onChange={setBy}
        />
        {view.rights.moderate && <TalkMenu handle={handle} />}
      </div>
      {entries.length === 0 && (
        <p className="py-3 text-ink-soft">
          {shown === "changes" ? "Nothing has changed yet." : "Nobody has said anything yet."}
        </p>
      )}
      {from > 0 && (
        <TextButton className="py-1 text-[13px]" onClick={() => setAll(true)}>
          Show all {entries.length}
        </TextButton>
      )}
      <ol className="talk-lines">
        {entries.slice(from).map((entry, i) => (
          <li key={entry.key} id={entry.kind === "thread" ? commentPlace(entry.key) : undefined}>
            {i + from === since && looked !== null && (
              <p className="talk-since" role="separator">
                new since you looked, {exact(looked, view.project.zone)}
              </p>
            )}
            {entry.kind === "thread" ? (
              <ThreadLines handle={handle} thread={entry.thread} named={named} />
            ) : (
              <HistoryLine entry={entry.entry} zone={view.project.zone} now={view.now} />
            )}
          </li>
        ))}
      </ol>
      {talk.closed === "nobody" ? (
        <p className="talk-closed">The talk about this item is closed.</p>
      ) : (
        view.rights.comment && <Composer key={view.key} handle={handle} />
      )}
      {talk.closed === "members" && (
        <p className="talk-closed">It is closed to everybody outside the project.</p>
      )}
    </section>
  );
}

/** So many changes stand there before the others are asked for. */
const LATEST = 30;

type Entry =
  | { kind: "thread"; key: string; at: number; thread: ReturnType<typeof threadsOf>[number] }
  | { kind: "change"; key: string; at: number; entry: HistoryEntry };

/** Comments stand among the changes as what was said, not as that something was said. */
const SAID = new Set(["commented", "comment edited", "comment taken back"]);

const changesOf = ({ view }: ItemHandle): HistoryEntry[] =>
  view.history.filter(({ kind }) => !SAID.has(kind));

function entriesOf(handle: ItemHandle, shown: Shown, by: string): Entry[] {
  const ofPerson = (id: string | null) => by === "" || id === by;
  const threads =
    shown === "changes"
      ? []
      : threadsOf(handle.view.talk.comments).filter(({ first, answers }) =>
          [first, ...answers].some(({ authorId }) => ofPerson(authorId)),
        );
  const changes = shown === "talk" ? [] : changesOf(handle).filter(({ whoId }) => ofPerson(whoId));
  return [
    ...threads.map((thread): Entry => {
      const last = thread.answers.at(-1) ?? thread.first;
      const at = shown === "both" ? thread.first.at : last.at;
      return { kind: "thread", key: thread.first.id, at, thread };
    }),
    ...changes.map((entry): Entry => ({
      kind: "change",
      key: String(entry.seq),
      at: entry.at,
      entry,
    })),
  ].toSorted((a, b) => startOf(a) - startOf(b));
}

/** Whether somebody else said or changed something since one looked. */
const isNews = (entry: Entry, looked: number, me: string): boolean =>
  entry.kind === "thread"
    ? [entry.thread.first, ...entry.thread.answers].some(
        ({ at, authorId }) => at > looked && authorId !== me,
      )
    : entry.at > looked && entry.entry.whoId !== me;

const startOf = (entry: Entry) => (entry.kind === "thread" ? entry.thread.first.at : entry.at);

/** Whoever said or changed something, by name. */
function peopleOf({ view }: ItemHandle): { value: string; label: string }[] {
  const names = new Map<string, string>();
  for (const { whoId, who } of view.history) if (whoId !== null) names.set(whoId, who);
  return [...names]
    .map(([value, name]) => ({ value, label: `by ${name}` }))
    .toSorted((a, b) => (a.label < b.label ? -1 : 1));
}

/** When one looked before this time; what is told from now on is noted as seen. */
function useLook(key: string, lookedAt: number | null): number | null {
  const [before] = useState(lookedAt);
  useEffect(() => {
    ask(talkContract.look, { params: { key } }).catch(() => {
      // It is noted the next time.
    });
  }, [key]);
  return before;
}

/** How far the talk is open, for leads. */
function TalkMenu({ handle }: { handle: ItemHandle }) {
  const { closed } = handle.view.talk;
  const close = (closing: typeof closed, done: string) =>
    void handle.send({ kind: "close talk", closing }, done).catch(tellProblem);
  return (
    <Menu
      align="end"
      trigger={
        <Button small look="quiet" aria-label="Close or open the talk">
          …
        </Button>
      }
    >
      {closed !== null && (
        <MenuItem onSelect={() => close(null, "The talk is open again.")}>
          Open the talk again
        </MenuItem>
      )}
      {closed !== "members" && (
        <MenuItem onSelect={() => close("members", "The talk is closed to everybody outside.")}>
          Close the talk to everybody outside
        </MenuItem>
      )}
      {closed !== "nobody" && (
        <MenuItem onSelect={() => close("nobody", "The talk is closed.")}>
          Close the talk to everybody
        </MenuItem>
      )}
    </Menu>
  );
}
