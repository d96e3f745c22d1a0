"use client";
import { useState } from "react";
import {
  PENNANTS,
  TERM_HUES,
  TERM_WORDS,
  type Pennant as PennantName,
  type TermHue,
} from "@/core/item/terms/term";
import type { UsedTerm } from "@/core/item/terms/view";
import { counted } from "@/core/formats/counted";
import { Button } from "@/ui/kit/button";
import { Field, FieldGroup, TextArea, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { Select } from "@/ui/kit/select";
import { Pennant } from "./pennant";
import type { useTermEdit } from "./use-terms";

/** What is said of a label or a part, and what else can be done with it. */
export function TermForm({
  term,
  others,
  people,
  send,
  onDone,
}: {
  term: UsedTerm;
  /** Words of its kind that it can be merged into. */
  others: readonly UsedTerm[];
  people: readonly { id: string; name: string }[];
  send: ReturnType<typeof useTermEdit>;
  onDone: () => void;
}) {
  const isNew = term.name === "";
  const [said, setSaid] = useState({
    name: term.name,
    meaning: term.meaning,
    sign: term.sign,
    hue: term.hue,
    ownerId: term.ownerId,
    places: term.places,
  });
  const set = (change: Partial<typeof said>) => setSaid((before) => ({ ...before, ...change }));
  const name = said.name.trim();
  const store = async () => {
    const { kind: of } = term;
    const renamed = !isNew && name !== term.name;
    if (renamed && !(await send({ kind: "rename", of, name: term.name, to: name }))) return;
    const { meaning, sign, hue, ownerId, places } = said;
    const looks = of === "label" ? { sign, hue } : { ownerId, places: [...places] };
    if (await send({ kind: "describe", of, name, meaning, ...looks })) onDone();
  };
  return (
    <form
      aria-label={isNew ? `New ${TERM_WORDS[term.kind].one}` : term.name}
      className="my-2 flex max-w-[720px] flex-col gap-3 border-l-2 border-line-strong pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        void store();
      }}
    >
      <Field
        label="Name"
        hint={
          !isNew && name !== term.name && term.items > 0
            ? `It is called so on ${counted(term.items, "item")}, in views and in rules at once; histories keep what was said.`
            : undefined
        }
      >
        <TextInput
          autoFocus
          required
          maxLength={40}
          value={said.name}
          onChange={(event) => set({ name: event.target.value })}
        />
      </Field>
      <Field label={term.kind === "label" ? "What it means" : "What belongs there"}>
        <TextArea
          rows={2}
          maxLength={500}
          value={said.meaning}
          onChange={(event) => set({ meaning: event.target.value })}
        />
      </Field>
      {term.kind === "label" ? (
        <Looks sign={said.sign} hue={said.hue} onChange={set} />
      ) : (
        <Owned said={said} people={people} onChange={set} />
      )}
      <FormFooter send={isNew ? "Make it" : "Store it"} disabled={name === ""} onLeave={onDone} />
      {!isNew && <Ends term={term} others={others} send={send} onDone={onDone} />}
    </form>
  );
}

function Looks({
  sign,
  hue,
  onChange,
}: {
  sign: PennantName;
  hue: TermHue;
  onChange: (change: { sign?: PennantName; hue?: TermHue }) => void;
}) {
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-2">
      <FieldGroup label="Sign">
        <div className="flex flex-wrap gap-1">
          {PENNANTS.map((each) => (
            <button
              key={each}
              type="button"
              className="term-look"
              aria-label={each}
              aria-pressed={each === sign}
              onClick={() => onChange({ sign: each })}
            >
              <Pennant sign={each} hue={hue} />
            </button>
          ))}
        </div>
      </FieldGroup>
      <FieldGroup label="Colour">
        <div className="flex flex-wrap gap-1">
          {TERM_HUES.map((each) => (
            <button
              key={each}
              type="button"
              className="term-look"
              aria-label={each}
              aria-pressed={each === hue}
              onClick={() => onChange({ hue: each })}
            >
              <Pennant sign={sign} hue={each} />
            </button>
          ))}
        </div>
      </FieldGroup>
    </div>
  );
}

function Owned({
  said,
  people,
  onChange,
}: {
  said: { ownerId: string | null; places: readonly string[] };
  people: readonly { id: string; name: string }[];
  onChange: (change: { ownerId?: string | null; places?: readonly string[] }) => void;
}) {
  return (
    <>
      <Field label="Who looks after it">
        <Select
          className="!w-[260px]"
          value={said.ownerId ?? ""}
          options={[
            { value: "", label: "Nobody yet" },
            ...people.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={(id) => onChange({ ownerId: id || null })}
        />
      </Field>
      {said.places.length > 0 && (
        <FieldGroup label="Places that belong to it">
          <div className="flex flex-wrap gap-1 font-normal">
            {said.places.map((place) => (
              <Button
                key={place}
                small
                look="quiet"
                aria-label={`${place} does not belong to it`}
                onClick={() => onChange({ places: said.places.filter((one) => one !== place) })}
              >
                {place} ×
              </Button>
            ))}
          </div>
        </FieldGroup>
      )}
    </>
  );
}

/** Merging it into another one, retiring it, and bringing it back. */
function Ends({
  term: { kind: of, name, items, endedAt },
  others,
  send,
  onDone,
}: {
  term: UsedTerm;
  others: readonly UsedTerm[];
  send: ReturnType<typeof useTermEdit>;
  onDone: () => void;
}) {
  const [into, setInto] = useState("");
  const merge = async () => {
    const done = `“${name}” is “${into}” now, on ${counted(items, "item")}.`;
    if (await send({ kind: "merge", of, name, into }, done)) onDone();
  };
  const turn = async () => {
    const [kind, back] =
      endedAt === null ? (["end", "bring back"] as const) : (["bring back", "end"] as const);
    const done = endedAt === null ? `“${name}” is not offered any more.` : `“${name}” is back.`;
    if (await send({ kind, of, name }, done, () => send({ kind: back, of, name }))) onDone();
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-line pt-2">
      <Button small look="quiet" onClick={() => void turn()}>
        {endedAt === null ? "Retire it" : "Bring it back"}
      </Button>
      {others.length > 0 && endedAt === null && (
        <>
          <span className="text-[13px] text-ink-soft">or merge it into</span>
          <Select
            className="!w-[200px]"
            label="Merge it into"
            value={into}
            placeholder="choose one"
            options={others.map((other) => ({ value: other.name, label: other.name }))}
            onChange={setInto}
          />
          {into !== "" && (
            <Button small onClick={() => void merge()}>
              Merge: {counted(items, "item")} {items === 1 ? "says" : "say"} “{into}” then
            </Button>
          )}
        </>
      )}
    </div>
  );
}
