"use client";
import { FormProblem } from "@/ui/kit/note";
import { DateInput } from "@/ui/kit/date-input";
import { Button } from "@/ui/kit/button";
import { Field, TextArea } from "@/ui/kit/field";
import { Check, Choice } from "@/ui/kit/check";
import { cutText } from "@/core/formats/cut-text";
import { type ReactNode, useEffect, useRef, useState, type FormEvent } from "react";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { WEEK } from "@/core/calendar/instant";
import type { DeskView, ReportView, SimilarItem } from "@/core/intake/desk-view";
import { tellingOf } from "@/core/intake/letters";
import { UNJUDGED } from "@/core/intake/report";
import { ALIKE, VERY_ALIKE } from "@/core/intake/very-alike";
import { newAcceptance, type Acceptance } from "@/core/intake/acceptance";
import { afterVerdict, type Verdict, type VerdictKind } from "@/core/intake/verdict";
import { isRefusal } from "@/core/workflow/refusal";
import { problemOf, type Problem } from "@/ui/kit/request";
import { AcceptFields } from "./accept-fields";
import { ItemPicker, type PickedItem } from "./item-picker";
import { standsAt } from "./stands-at";

export const VERDICT_BUTTONS: { kind: VerdictKind; label: string; key: string; does: string }[] = [
  { kind: "accept", label: "Accept", key: "a", does: "Accept into backlog" },
  { kind: "merge", label: "Merge", key: "m", does: "Merge as duplicate" },
  { kind: "ask", label: "Ask", key: "q", does: "Send the question" },
  { kind: "park", label: "Park", key: "p", does: "Park until then" },
  { kind: "decline", label: "Decline", key: "d", does: "Decline with this reason" },
];

interface Props {
  kind: VerdictKind;
  itemId?: string;
  /** Words that a decline begins with. */
  reason?: string;
  several: number;
  /** Whether no verdict can be given now: somebody else has given one meanwhile. */
  held: boolean;
  desk: DeskView;
  view: ReportView;
  /** @throws Problem */
  onVerdict: (verdict: Verdict, together: boolean) => Promise<void>;
  onCancel: () => void;
}

/** What is typed into the form, whatever the verdict. */
interface Typed {
  acceptance: Acceptance;
  /** The item to merge into. */
  target: PickedItem | null;
  /** The question, or the reason for declining. */
  text: string;
  /** The day, or the item, until which it is parked. */
  until: string;
  /** Null until a day; otherwise the item, once one is chosen. */
  awaited: { item: PickedItem | null } | null;
}

/** An item that looks like the report, as it is chosen. */
const pickedOf = (item: SimilarItem): PickedItem => ({
  id: item.id,
  key: item.key,
  title: item.title,
  about: standsAt(item),
});

/** What a merge begins with: what was pressed, or the likeliest where it is alike enough. */
function firstTarget({ similar }: ReportView, itemId: string | undefined): PickedItem | null {
  const first = itemId
    ? similar.find((s) => s.id === itemId)
    : similar.find((s) => s.score >= ALIKE);
  return first ? pickedOf(first) : null;
}

/** Whether a verdict names an item, and none is chosen yet. */
const lacksItem = (kind: VerdictKind, { target, awaited }: Typed): boolean =>
  (kind === "merge" && target === null) || (kind === "park" && awaited?.item === null);

function verdictOf(kind: VerdictKind, typed: Typed): Verdict {
  const { acceptance, target, text, until, awaited } = typed;
  if (kind === "accept") return { kind, acceptance };
  if (kind === "merge") return { kind, itemId: target?.id ?? "" };
  if (kind === "ask") return { kind, question: text };
  if (kind === "decline") return { kind, reason: text };
  return awaited === null
    ? { kind, until, itemId: null }
    : { kind, until: null, itemId: awaited.item?.id ?? "" };
}

/**
 * What a verdict needs, asked for on the desk itself; what was typed stays until the verdict is
 * stored.
 */
export function VerdictForm({
  kind,
  itemId,
  reason = "",
  several,
  held,
  desk,
  view,
  onVerdict,
  onCancel,
}: Props) {
  const [typed, setTyped] = useState<Typed>(() => ({
    acceptance: firstAcceptance(desk, view, several > 1),
    target: firstTarget(view, itemId),
    text: reason,
    until: isoDate(dayNumber(desk.now + WEEK, desk.project.zone)),
    awaited: null,
  }));
  const set = (change: Partial<Typed>) => setTyped((t) => ({ ...t, ...change }));
  const { acceptance, target } = typed;
  const [together, setTogether] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const form = useRef<HTMLFormElement>(null);
  // Also when it goes on after another's verdict was taken back.
  useEffect(() => {
    if (held) return;
    form.current
      ?.querySelector<HTMLElement>("[data-first],input,textarea,[role=combobox],[aria-haspopup]")
      ?.focus();
  }, [held]);

  const verdict = verdictOf(kind, typed);
  const give = async (event?: FormEvent) => {
    event?.preventDefault();
    if (busy || held || !form.current?.reportValidity()) return;
    setBusy(true);
    try {
      await onVerdict(verdict, together);
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
    }
  };
  return (
    <form
      ref={form}
      aria-label={VERDICT_BUTTONS.find((b) => b.kind === kind)!.label}
      onSubmit={(e) => void give(e)}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          e.preventDefault();
          onCancel();
        }
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) void give();
      }}
      className="flex flex-col gap-3 border-b border-line bg-sheet px-5 py-3"
    >
      {several > 1 && (
        <p className="text-[13px]">
          <b>On all {several} selected reports.</b>{" "}
          {kind === "accept" && (
            <Check checked={together} onChange={setTogether}>
              one item for all of them: the first becomes it, the others are merged into it
            </Check>
          )}
        </p>
      )}
      <VerdictFields
        kind={kind}
        several={several > 1 && !together}
        desk={desk}
        view={view}
        typed={typed}
        set={set}
      />
      <Told verdict={verdict} desk={desk} view={view} />
      {problem && (
        <FormProblem>
          <b>{problem.sentence}</b> {problem.errors[0]?.message ?? problem.help}
        </FormProblem>
      )}
      <div className="flex items-center justify-end gap-2">
        <Button look="quiet" onClick={onCancel}>
          Back to reading
        </Button>
        <Button type="submit" disabled={busy || held || lacksItem(kind, typed)} look="accent">
          {kind === "accept" && (acceptance.onBoard || acceptance.found?.where === "fix now")
            ? "Accept onto the board"
            : kind === "merge" && target
              ? `Merge into ${target.key}`
              : kind === "park" && typed.awaited?.item
                ? `Park until ${typed.awaited.item.key} is done`
                : VERDICT_BUTTONS.find((b) => b.kind === kind)!.does}
        </Button>
      </div>
    </form>
  );
}

/** What each kind of verdict asks for. */
function VerdictFields({
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
  typed: Typed;
  set: (change: Partial<Typed>) => void;
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

/** What is known of a report fills in its acceptance; of several, each keeps its own area. */
function firstAcceptance(
  desk: DeskView,
  { report, typeId }: ReportView,
  several: boolean,
): Acceptance {
  const type =
    desk.types.find((t) => t.id === typeId) ??
    desk.types.find((t) => t.id === "bug") ??
    desk.types[0];
  const area =
    desk.areas.find((a) => a.toLowerCase() === report.place.toLowerCase()) ??
    (cutText(report.place, 200) || null);
  return {
    ...newAcceptance(report.title, type?.id ?? "bug"),
    teamId: report.teamId ?? desk.teams[0]?.id ?? null,
    area: several ? null : area,
  };
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
  onUntil,
  onAwaited,
}: {
  desk: DeskView;
  proposed: readonly PickedItem[];
  until: string;
  awaited: Typed["awaited"];
  onUntil: (day: string) => void;
  onAwaited: (awaited: Typed["awaited"]) => void;
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
        <Field label="Look at it again on">
          <DateInput data-first required value={until} onChange={onUntil} />
        </Field>
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
  const remind = remindAfterDays === null ? "" : ` After ${remindAfterDays} days we ask once more.`;
  const end =
    endAfterDays === null
      ? ""
      : ` After ${endAfterDays} days without an answer it ends by itself; an answer still opens it again.`;
  return `While they are asked, its promise stands still.${remind}${end}`;
}

/** What the requester will read, before it is sent. */
function Told({ verdict, desk, view }: { verdict: Verdict; desk: DeskView; view: ReportView }) {
  const into =
    verdict.kind === "merge" ? view.similar.find((s) => s.id === verdict.itemId) : undefined;
  // Of an item that was searched for it is not known here how far it is; the letter says it.
  if (verdict.kind === "merge" && !into) return null;
  const after = afterVerdict(UNJUDGED, verdict, "item", dayNumber(desk.now, desk.project.zone));
  const telling = isRefusal(after) ? null : tellingOf(verdict, after, desk.now, into?.progress);
  if (telling === null || !("text" in telling) || verdict.kind === "ask") return null;
  return (
    <p className="border-l-[3px] border-line-strong pl-3 text-[12.5px] text-ink-soft">
      {view.report.mail !== "" ? "They will read" : "Their page will say"}: “{telling.text}”{" "}
      <span className="whitespace-nowrap">Sent in a minute, so that it can be undone.</span>
    </p>
  );
}
