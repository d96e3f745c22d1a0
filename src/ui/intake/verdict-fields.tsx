"use client";
import { counted } from "@/core/formats/counted";
import type { ReactNode } from "react";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import type { VerdictKind } from "@/core/intake/verdict";
import { VERY_ALIKE } from "@/core/intake/very-alike";
import { Button } from "@/ui/kit/button";
import { Check, Choice } from "@/ui/kit/check";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextArea } from "@/ui/kit/field";
import { AcceptFields } from "./accept-fields";
import { ItemPicker, type PickedItem } from "@/ui/item/item-picker";
import { pickedOf, type TypedVerdict } from "./typed-verdict";

/** What each kind of verdict asks for. */
export function VerdictFields({
  kind,
  several,
  desk,
  view,
  typed,
  set,
}: {
  kind: VerdictKind;
  /** Whether each of several reports becomes something of its own. */
  several: boolean;
  desk: DeskView;
  view: ReportView;
  typed: TypedVerdict;
  set: (change: Partial<TypedVerdict>) => void;
}) {
  const { acceptance, target, text } = typed;
  const proposed = view.similar.map(pickedOf);
  return (
    <>
      {kind === "accept" && (
        <AcceptFields
          desk={desk}
          value={acceptance}
          several={several}
          suggested={several ? [] : view.suggested}
          onChange={(next) => set({ acceptance: next })}
        />
      )}
      {kind === "merge" && (
        <>
          {!several && view.similar[0] && view.similar[0].score < VERY_ALIKE && (
            <p className="text-[13px] text-ink-soft">
              Nothing is very much like it: read before you merge.
            </p>
          )}
          <ItemPicker
            projectKey={desk.project.key}
            label="It tells of the same thing as"
            proposed={proposed}
            chosen={target}
            onChange={(next) => set({ target: next })}
          />
        </>
      )}
      {kind === "ask" && (
        <WordsFor
          ready="Questions asked often"
          options={desk.rules.questions.map((q) => [q.text, q.name])}
          label="What do you need to know? The requester reads this."
          longest={5_000}
          value={text}
          onChange={(next) => set({ text: next })}
        >
          <p className="text-[12.5px] text-ink-soft">{waitingWords(desk)}</p>
        </WordsFor>
      )}
      {kind === "park" && (
        <ParkFields
          desk={desk}
          proposed={view.similar.filter((s) => s.progress.stateKind !== "finished").map(pickedOf)}
          until={typed.until}
          awaited={typed.awaited}
          watched={typed.watched}
          onWatched={(watched) => set({ watched })}
          onUntil={(until) => set({ until })}
          onAwaited={(awaited) => set({ awaited })}
        />
      )}
      {kind === "decline" && (
        <WordsFor
          ready="Reasons agreed on"
          options={desk.rules.declineReasons.map((r) => [r, r])}
          label="Why not? The requester reads this reason."
          longest={2_000}
          value={text}
          onChange={(next) => set({ text: next })}
        />
      )}
    </>
  );
}

/** Words that the requester reads, with those that stand ready. */
function WordsFor({
  ready,
  options,
  label,
  longest,
  value,
  onChange,
  children,
}: {
  /** What the texts that stand ready are called. */
  ready: string;
  options: [text: string, name: string][];
  label: string;
  longest: number;
  value: string;
  onChange: (text: string) => void;
  children?: ReactNode;
}) {
  return (
    <>
      <Ready label={ready} options={options} onChoose={onChange} />
      <Field label={label}>
        <TextArea
          data-first
          className="!font-normal"
          required
          maxLength={longest}
          rows={3}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      </Field>
      {children}
    </>
  );
}

/** Texts that stand ready; they can be changed before they go out. */
function Ready({
  label,
  options,
  onChoose,
}: {
  label: string;
  options: [text: string, name: string][];
  onChoose: (text: string) => void;
}) {
  if (options.length === 0) return null;
  return (
    <div role="group" aria-label={label} className="flex flex-wrap gap-1.5">
      {options.map(([text, name]) => (
        <Button
          key={text}
          small
          className="!font-normal"
          title={text}
          onClick={() => onChoose(text)}
        >
          {name}
        </Button>
      ))}
    </div>
  );
}

function ParkFields({
  desk,
  proposed,
  until,
  awaited,
  watched,
  onUntil,
  onAwaited,
  onWatched,
}: {
  desk: DeskView;
  proposed: readonly PickedItem[];
  until: string;
  awaited: TypedVerdict["awaited"];
  watched: boolean;
  onUntil: (day: string) => void;
  onWatched: (watched: boolean) => void;
  onAwaited: (awaited: TypedVerdict["awaited"]) => void;
}) {
  const open = [...proposed, ...desk.inWork, ...desk.backlogTop].filter(
    (i, at, all) =>
      all.findIndex((o) => o.id === i.id) === at && !desk.finishedLately.some((f) => f.id === i.id),
  );
  return (
    <div className="flex flex-col gap-2">
      <div role="radiogroup" aria-label="Until" className="flex gap-4 text-[13px]">
        <Choice name="until" checked={awaited === null} onChange={() => onAwaited(null)}>
          until a day
        </Choice>
        <Choice name="until" checked={awaited !== null} onChange={() => onAwaited({ item: null })}>
          until an item is done
        </Choice>
      </div>
      {awaited === null ? (
        <>
          <Field label={watched ? "Watch for it until" : "Look at it again on"}>
            <DateInput data-first required value={until} onChange={onUntil} />
          </Field>
          <Check checked={watched} onChange={onWatched} className="text-[13px]">
            it could not be made to happen: it comes back when one like it arrives or its part of
            the product changes; if nothing new comes, it ends on that day
          </Check>
        </>
      ) : (
        <ItemPicker
          projectKey={desk.project.key}
          label="It comes back when this is done"
          proposed={open}
          openOnly
          chosen={awaited.item}
          onChange={(item) => onAwaited({ item })}
        />
      )}
    </div>
  );
}

function waitingWords({ rules: { remindAfterDays, endAfterDays } }: DeskView): string {
  const remind =
    remindAfterDays === null ? "" : ` After ${counted(remindAfterDays, "day")} we ask once more.`;
  const end =
    endAfterDays === null
      ? ""
      : ` After ${counted(endAfterDays, "day")} without an answer it ends by itself; an answer still opens it again.`;
  return `While they are asked, its promise stands still.${remind}${end}`;
}
