"use client";
import { useState } from "react";
import { bulkAct, type BulkAct } from "@/core/item/bulk/act";
import { EDITABLE_FIELDS, itemField, type EditableField } from "@/core/item/fields";
import { readSize, stepsAsText, type SizeScale } from "@/core/plan/size-scale";
import { useSizes } from "@/ui/kit/sizes";
import { Choice } from "@/ui/kit/check";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextInput } from "@/ui/kit/field";
import { namedOptions, Select, wordOptions, type Option } from "@/ui/kit/select";
import { TERM_WORDS, type TermKind } from "@/core/item/terms/term";
import { TermEditor } from "@/ui/item/terms/term-editor";
import { capital } from "@/core/formats/capital";
import { BulkForm, type Given } from "./bulk-form";

/** Nothing is chosen yet; an empty text would be nobody, or none. */
const UNCHOSEN = "\u0000";

/** An act as it would be sent; null where it is none yet. */
const whole = (given: unknown): BulkAct | null => bulkAct.safeParse(given).data ?? null;

/** Moves all to one state. */
export function MoveForm({ given }: { given: Given }) {
  const [to, setTo] = useState("");
  const { states } = given.vocabulary;
  const several = new Set(states.map((state) => state.workflowName)).size > 1;
  return (
    <BulkForm key={to} given={given} verb="Move" act={to ? whole({ kind: "move", to }) : null}>
      <Field label="To which state?">
        <Select
          value={to}
          placeholder="choose a state"
          options={states.map(({ id, name, workflowName }) => ({
            value: id,
            label: several ? `${name} (${workflowName})` : name,
          }))}
          onChange={setTo}
        />
      </Field>
    </BulkForm>
  );
}

/** Sets one field of all: chosen first, or the one that the form is about. */
export function SetForm({ given, only }: { given: Given; only?: EditableField }) {
  const [field, setField] = useState<EditableField>(only ?? "priority");
  const [value, setValue] = useState<string | null>(null);
  const { editor } = itemField(field);
  const scale = useSizes();
  const sized = field === "estimate";
  const read = value === null ? undefined : sized ? sizeOf(value, scale) : valueOf(field, value);
  const act = read === undefined ? null : whole({ kind: "set", changes: { [field]: read } });
  return (
    <BulkForm given={given} verb="Change" act={act}>
      {!only && (
        <Field label="Which field?">
          <Select
            value={field}
            options={CHANGED.map((each) => ({ value: each, label: itemField(each).label }))}
            onChange={(next) => {
              setField(next);
              setValue(null);
            }}
          />
        </Field>
      )}
      <Field label={only ? itemField(field).label : "To what?"}>
        {editor.kind === "choice" ? (
          <Select
            value={value ?? UNCHOSEN}
            options={[
              { value: UNCHOSEN, label: "choose", disabled: true },
              ...optionsFor(field, given),
            ]}
            onChange={setValue}
          />
        ) : editor.kind === "date" ? (
          <DateInput label="Day" value={value ?? ""} onChange={setValue} />
        ) : (
          <TextInput
            inputMode={editor.kind === "number" && !sized ? "decimal" : undefined}
            placeholder={sized ? `${stepsAsText(scale)}, or a number` : undefined}
            value={value ?? ""}
            onChange={(event) => setValue(event.target.value)}
          />
        )}
      </Field>
    </BulkForm>
  );
}

/** The fields that are the same for several items with sense. */
const CHANGED = EDITABLE_FIELDS.filter((field) => {
  const { kind } = itemField(field).editor;
  return kind === "choice" || kind === "date" || kind === "number";
});

function optionsFor(field: EditableField, { vocabulary }: Given): Option[] {
  const { editor } = itemField(field);
  if (editor.kind !== "choice") return [];
  const none = editor.none === undefined ? [] : [{ value: "", label: editor.none }];
  return [
    ...none,
    ...(typeof editor.options === "string"
      ? namedOptions(vocabulary[editor.options])
      : wordOptions(editor.options)),
  ];
}

/** What was chosen or written, as the field says it; undefined where it is nothing of that kind. */
function valueOf(field: EditableField, text: string): unknown {
  const { editor } = itemField(field);
  if (text === "") return null;
  if (editor.kind !== "number") return text;
  const number = Number(text.replace(",", "."));
  return Number.isFinite(number) ? number : undefined;
}

/** A size by its name on the project's scale, or as a number; undefined where it is neither. */
const sizeOf = (text: string, scale: SizeScale): number | null | undefined =>
  text.trim() === "" ? null : (readSize(text, scale) ?? undefined);

/** Adds labels or parts to all, and takes others away. */
export function TermForm({ given, kind }: { given: Given; kind: TermKind }) {
  const [add, setAdd] = useState<string[]>([]);
  const [remove, setRemove] = useState<string[]>([]);
  const act = add.length + remove.length > 0 ? whole({ kind, add, remove }) : null;
  const { several } = TERM_WORDS[kind];
  const chooses = { projectKey: given.projectKey, kind };
  return (
    <BulkForm given={given} verb={capital(kind)} act={act}>
      <p className="text-[12.5px] font-semibold">Add {several}</p>
      <TermEditor {...chooses} label={`Add ${several}`} names={add} onChange={setAdd} />
      <p className="text-[12.5px] font-semibold">Take {several} away</p>
      <TermEditor {...chooses} label={`Take ${several} away`} names={remove} onChange={setRemove} />
    </BulkForm>
  );
}

/** Puts all at one end of the order, in the order they have. */
export function RankForm({ given }: { given: Given }) {
  const [end, setEnd] = useState<"top" | "bottom">("top");
  return (
    <BulkForm given={given} verb="Rank" act={whole({ kind: "rank", end })}>
      {(["top", "bottom"] as const).map((each) => (
        <Choice key={each} name="end" checked={end === each} onChange={() => setEnd(each)}>
          at the {each} of the order, as they stand among each other
        </Choice>
      ))}
    </BulkForm>
  );
}

/** Blocks all for one cause. */
export function BlockForm({ given }: { given: Given }) {
  const [cause, setCause] = useState("");
  const [waitingFor, setWaitingFor] = useState("");
  const act = { kind: "block", cause, waitingFor: waitingFor.trim() || null };
  return (
    <BulkForm given={given} verb="Block" act={whole(act)}>
      <Field label="What blocks them?">
        <TextInput
          autoFocus
          maxLength={500}
          value={cause}
          onChange={(event) => setCause(event.target.value)}
        />
      </Field>
      <Field label="Whom or what do they wait for?">
        <TextInput
          maxLength={200}
          value={waitingFor}
          onChange={(event) => setWaitingFor(event.target.value)}
        />
      </Field>
    </BulkForm>
  );
}

/** Puts all under another item, or under none. */
export function UnderForm({ given }: { given: Given }) {
  const [key, setKey] = useState("");
  const parentKey = key.trim() || null;
  return (
    <BulkForm given={given} verb="Put" act={whole({ kind: "put under", parentKey })}>
      <Field label="Under which item?" hint="Its key; empty: under none.">
        <TextInput
          autoFocus
          placeholder="TIX-100"
          value={key}
          onChange={(event) => setKey(event.target.value)}
        />
      </Field>
    </BulkForm>
  );
}
