"use client";
import { daysWords } from "@/ui/kit/time";
import { useState, type FormEvent } from "react";
import { v7 as newId } from "uuid";
import type { Card } from "@/core/board/card";
import { waitsForWords } from "@/core/board/around";
import type { BoardView } from "@/core/board/board-view";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { requirementWords } from "@/core/workflow/requirements/table";
import { ItemBlockers } from "@/ui/item/item-blockers";
import { MoveButtons } from "@/ui/item/move-buttons";
import { useItem, type ItemHandle } from "@/ui/item/use-item";
import { ZigzagFigure } from "@/ui/item/zigzag-figure";
import { Button } from "@/ui/kit/button";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextInput } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { namedOptions, Select } from "@/ui/kit/select";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { WalkSend } from "./use-walk";

/** What is written down of an item. */
export type Noting = "agree" | "later" | null;

/** The item that everybody looks at: its line, what holds it, what it needs next. */
export function WalkItem({
  card,
  view,
  ageDays,
  walkId,
  noting,
  onNoting,
  send,
}: {
  card: Card;
  view: BoardView;
  ageDays: number;
  walkId: string;
  noting: Noting;
  onNoting: (noting: Noting) => void;
  send: WalkSend;
}) {
  const { handle, error } = useItem(card.key);
  const assignee = view.people.find(({ id }) => id === card.assigneeId)?.name;
  const states = view.workflows.flatMap((workflow) => workflow.states);
  const state = states.find(({ id }) => id === card.stateId)?.name;
  return (
    <article aria-label={`${card.key} ${card.title}`} className="flex flex-col gap-4">
      <div>
        <p className="flex flex-wrap items-center gap-x-3">
          <TypeGlyph typeId={card.typeId} size={18} />
          <span className="key !text-[15px]">{card.key}</span>
          <span>
            {[state, assignee ?? "nobody yet", daysWords(ageDays)].filter(Boolean).join(" · ")}
          </span>
        </p>
        <h2 className="mt-1 text-[26px] leading-tight">{card.title}</h2>
      </div>
      {handle ? (
        <Known handle={handle} card={card} view={view} />
      ) : (
        // The shape of what comes is there at once.
        <div className="h-[300px] text-ink-soft">{error && problemOf(error).sentence}</div>
      )}
      {noting && (
        <NoteForm
          key={`${card.id} ${noting}`}
          kind={noting}
          card={card}
          view={view}
          walkId={walkId}
          send={send}
          onDone={() => onNoting(null)}
        />
      )}
    </article>
  );
}

/** What is known of it beyond its card, once it is read. */
function Known({ handle, card, view }: { handle: ItemHandle; card: Card; view: BoardView }) {
  const { view: item } = handle;
  return (
    <>
      <ZigzagFigure
        zigzag={item.zigzag}
        stateNames={item.stateNames}
        zone={item.project.zone}
        width={720}
      />
      <div className="grid grid-cols-2 gap-4 max-[1100px]:grid-cols-1">
        <section className="border border-line bg-sheet p-3" aria-label="What holds it">
          <h3 className="mb-1 text-[14px]">What holds it</h3>
          <Holds card={card} view={view} />
          <ItemBlockers handle={handle} />
        </section>
        <section className="border border-line bg-sheet p-3" aria-label="What it needs next">
          <h3 className="mb-1 text-[14px]">What it needs next</h3>
          <Needs handle={handle} />
        </section>
      </div>
      <MoveButtons handle={handle} quiet />
      <GiveTo handle={handle} view={view} />
    </>
  );
}

/** What an item waits for, in words; that it is blocked stands below. */
function Holds({ card, view }: { card: Card; view: BoardView }) {
  const around = view.around[card.id];
  const waits = around ? waitsForWords(around) : null;
  const free = card.openBlockers.length === 0 && waits === null;
  return (
    <p className={free ? "text-ink-soft" : ""}>
      {free ? "Nothing that anybody has said." : (waits ?? "")}
    </p>
  );
}

/** The next step from here, and what it asks for. */
function Needs({ handle: { view } }: { handle: ItemHandle }) {
  const [next] = view.transitions;
  const points = view.agreement.points.filter(({ ticked }) => !ticked);
  const open = view.children.filter(({ finished }) => !finished).length;
  if (!next) return <p className="text-ink-soft">It has arrived.</p>;
  const vocabulary = { ...EMPTY_VOCABULARY, people: view.people, teams: view.teams };
  const asked = next.requirements.map((one) => requirementWords(one, vocabulary));
  return (
    <>
      <p>
        <b>{next.verb}</b>, to {next.toName}
        {asked.length > 0 && <>: {asked.join("; ")}</>}
      </p>
      {open > 0 && <p>{open} of its children are still open.</p>}
      {points.length > 0 && <p>Not found true yet: {points.map(({ text }) => text).join("; ")}</p>}
      {view.item.assigneeId === null && <p>Somebody who works on it.</p>}
    </>
  );
}

/** Gives the item to somebody, without leaving the walk. */
function GiveTo({ handle, view }: { handle: ItemHandle; view: BoardView }) {
  const { item, rights } = handle.view;
  const people = view.people.filter(({ role }) => role !== "observer");
  return (
    <div className="flex items-center gap-2" data-give="">
      <span className="text-[13px] text-ink-soft">Give it to</span>
      <Select
        label="Give it to"
        words
        disabled={!rights.edit}
        value={item.assigneeId ?? ""}
        options={[{ value: "", label: "nobody" }, ...namedOptions(people)]}
        onChange={(id) => void handle.edit({ assigneeId: id || null }).catch(tellProblem)}
      />
    </div>
  );
}

/** What is agreed on, with who does it and by when; or what is left for later. */
function NoteForm({
  kind,
  card,
  view,
  walkId,
  send,
  onDone,
}: {
  kind: Exclude<Noting, null>;
  card: Card;
  view: BoardView;
  walkId: string;
  send: WalkSend;
  onDone: () => void;
}) {
  const [text, setText] = useState("");
  const [ownerId, setOwnerId] = useState(card.assigneeId ?? "");
  const [dueOn, setDueOn] = useState("");
  const store = async (event: FormEvent) => {
    event.preventDefault();
    const said = { id: walkId, noteId: newId(), itemId: card.id, text };
    const done = await send(
      kind === "agree"
        ? { kind, ...said, ownerId: ownerId || null, dueOn: dueOn || null }
        : { kind, ...said },
    );
    if (done) onDone();
  };
  const agree = kind === "agree";
  return (
    <form
      onSubmit={(event) => void store(event)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") onDone();
      }}
      className="flex flex-wrap items-end gap-3 border border-accent bg-sheet p-3"
      aria-label={agree ? "Agree on something" : "Talk later"}
    >
      <Field
        label={agree ? "What is agreed on" : "What is to be talked about"}
        className={agree ? "w-full" : "min-w-[280px] flex-1"}
      >
        <TextInput
          autoFocus
          required
          maxLength={2_000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Field>
      {agree && (
        <>
          <Field label="Who does it">
            <Select
              value={ownerId}
              options={[
                { value: "", label: "nobody in particular" },
                ...namedOptions(view.people.filter(({ role }) => role !== "observer")),
              ]}
              onChange={setOwnerId}
            />
          </Field>
          <Field label="By when">
            <DateInput value={dueOn} onChange={(day) => setDueOn(day ?? "")} />
          </Field>
        </>
      )}
      <Button type="submit" look="accent">
        {agree ? "Agreed" : "Leave it for later"}
      </Button>
      <Button look="quiet" onClick={onDone}>
        Leave
      </Button>
    </form>
  );
}
