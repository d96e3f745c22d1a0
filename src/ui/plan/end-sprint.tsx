"use client";
import { useState, type ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import type { OpenInSprint } from "@/core/plan/sprint-view";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { Size } from "@/ui/kit/sizes";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { SprintHandle } from "./use-sprint";

const BACKLOG = "";
const AS_ALL = "as all";
const SPLIT = "split";

/** How something open is split, as it is typed. */
interface SplitDraft {
  remains: string;
  title: string;
  points: string;
}

/** How a sprint ends: whether its goal was reached, and what becomes of everything open in it. */
export function EndSprint({
  handle: { view, act },
  onDone,
}: {
  handle: SprintHandle;
  onDone: () => void;
}) {
  const { sprint, open, openUnseen, next } = view;
  const [reached, setReached] = useState<"yes" | "no" | "">("");
  const [words, setWords] = useState("");
  const [to, setTo] = useState(next[0]?.id ?? BACKLOG);
  const [otherwise, setOtherwise] = useState<Record<string, string>>({});
  const [splits, setSplits] = useState<Record<string, SplitDraft>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const places = [
    ...next.map(({ id, name }) => ({ value: id, label: `into ${name}` })),
    { value: BACKLOG, label: "back to the backlog" },
  ];
  const end = async () => {
    const unread = open.find(({ id }) => otherwise[id] === SPLIT && !isNumbers(splits[id]));
    if (unread) return setProblem(`How much remains of ${unread.key}? Write it as a number.`);
    setBusy(true);
    try {
      await act({
        kind: "end",
        reached: sprint.goal && reached ? reached === "yes" : null,
        words,
        to: idOf(to),
        exceptions: exceptionsOf({ otherwise, splits, to: idOf(to) }),
      });
      tellDone(`${sprint.name} has ended.`, () => act({ kind: "bring back" }));
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      setBusy(false);
    }
  };
  const all = open.length + openUnseen;
  return (
    <form
      aria-label="End the sprint"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void end();
      }}
    >
      {sprint.goal && (
        <Field label={`Was the goal reached: “${sprint.goal}”?`}>
          <Select
            value={reached}
            options={[
              { value: "", label: "Not said" },
              { value: "yes", label: "It was reached" },
              { value: "no", label: "It was not reached" },
            ]}
            onChange={(value) => setReached(value as typeof reached)}
          />
        </Field>
      )}
      <Field label="In a few words">
        <TextArea
          rows={2}
          className="!font-normal"
          maxLength={2_000}
          placeholder="What went well, what came in between"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </Field>
      {all === 0 ? (
        <p>Nothing is open in it.</p>
      ) : (
        <>
          <Field
            label={`What is open, ${counted(all, "item")}, goes`}
            hint={openUnseen > 0 && `${counted(openUnseen, "item")} you do not see go there too.`}
          >
            <Select value={to} options={places} onChange={setTo} />
          </Field>
          <ul className="max-h-[34vh] overflow-y-auto" aria-label="Open in it">
            {open.map((item) => (
              <OpenRow
                key={item.id}
                item={item}
                places={[
                  { value: AS_ALL, label: "as all" },
                  ...places,
                  { value: SPLIT, label: "split it" },
                ]}
                place={otherwise[item.id] ?? AS_ALL}
                onPlace={(place) => {
                  setOtherwise((now) => ({ ...now, [item.id]: place }));
                  setSplits((now) => ({ [item.id]: firstSplit(item), ...now }));
                }}
              >
                {otherwise[item.id] === SPLIT && (
                  <SplitFields
                    item={item}
                    draft={splits[item.id]}
                    onChange={(draft) => setSplits((now) => ({ ...now, [item.id]: draft }))}
                  />
                )}
              </OpenRow>
            ))}
          </ul>
        </>
      )}
      <FormFooter send={`End ${sprint.name}`} busy={busy} problem={problem} onLeave={onDone} />
    </form>
  );
}

function OpenRow({
  item: { key, title, typeId, stateName, estimate },
  places,
  place,
  onPlace,
  children,
}: {
  item: OpenInSprint;
  places: { value: string; label: string }[];
  place: string;
  onPlace: (place: string) => void;
  children: ReactNode;
}) {
  return (
    <li className="flex flex-wrap items-center gap-2 border-t border-line py-1 text-[13px]">
      <TypeGlyph typeId={typeId} />
      <span className="key">{key}</span>
      <span className="min-w-0 flex-1 truncate">{title}</span>
      <span className="text-ink-soft">{stateName}</span>
      <span className="w-6 text-right tabular-nums">
        <Size of={estimate} />
      </span>
      <Select
        plain
        label={`Where ${key} goes`}
        className="!w-[150px]"
        value={place}
        options={places}
        onChange={onPlace}
      />
      {children}
    </li>
  );
}

const idOf = (place: string) => (place === BACKLOG ? null : place);

/** What goes elsewhere than all others, or is split. */
const exceptionsOf = ({
  otherwise,
  splits,
  to,
}: {
  otherwise: Record<string, string>;
  splits: Record<string, SplitDraft>;
  to: string | null;
}) =>
  Object.entries(otherwise)
    .filter(([, place]) => place !== AS_ALL)
    .map(([itemId, place]) =>
      place === SPLIT
        ? { itemId, to, split: splitOf(splits[itemId]) }
        : { itemId, to: idOf(place) },
    );

const firstSplit = ({ title }: OpenInSprint): SplitDraft => ({ remains: "", title, points: "" });

/** What was typed as a number; not a number where it is none. */
const numberOf = (text: string): number =>
  text.trim() === "" ? NaN : Number(text.replace(",", "."));

/** Whether all of a split can be read. */
const isNumbers = ({ remains, points }: SplitDraft): boolean =>
  [remains, points || "0"].every((text) => numberOf(text) >= 0);

const splitOf = ({ remains, title, points }: SplitDraft) => ({
  remains: numberOf(remains),
  cutOff: title.trim() ? { title, points: points.trim() === "" ? null : numberOf(points) } : null,
});

/** How large what goes on is, and what becomes of the rest. */
function SplitFields({
  item: { key, estimate },
  draft,
  onChange,
}: {
  item: OpenInSprint;
  draft: SplitDraft;
  onChange: (draft: SplitDraft) => void;
}) {
  const remain = (remains: string) => {
    const rest = (estimate ?? 0) - Number(remains.replace(",", "."));
    onChange({ ...draft, remains, points: rest > 0 ? String(rest) : "" });
  };
  return (
    <div className="flex w-full flex-wrap items-center gap-2 border-l-[3px] border-accent pb-1 pl-2">
      <span>goes on with</span>
      <TextInput
        aria-label={`Points that remain of ${key}`}
        className="!w-[58px]"
        inputMode="decimal"
        required
        value={draft.remains}
        onChange={(event) => remain(event.target.value)}
      />
      <span>of {estimate ?? "no"} points; cut off into the backlog</span>
      <TextInput
        aria-label={`What is cut off from ${key}`}
        className="!w-auto min-w-[150px] flex-1"
        maxLength={200}
        placeholder="nothing: it is only smaller now"
        value={draft.title}
        onChange={(event) => onChange({ ...draft, title: event.target.value })}
      />
      <TextInput
        aria-label={`Points cut off from ${key}`}
        className="!w-[58px]"
        inputMode="decimal"
        disabled={draft.title.trim() === ""}
        value={draft.points}
        onChange={(event) => onChange({ ...draft, points: event.target.value })}
      />
    </div>
  );
}
