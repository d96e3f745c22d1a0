"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { itemContract } from "@/core/item/contract";
import type { ItemView } from "@/core/item/item-view";
import type { OwnValue } from "@/core/item/own-field";
import type { ProjectChangeView } from "@/core/item/project-change";
import { Field, FieldGroup } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone } from "@/ui/kit/notice";
import { FormProblem } from "@/ui/kit/note";
import { usePanel } from "@/ui/kit/panel-context";
import { problemOf, queryOf } from "@/ui/kit/request";
import { namedOptions, Select } from "@/ui/kit/select";
import { OwnFieldInput } from "./own-field-input";
import { sendCommand, undoCommand } from "./send-command";

/** Moves an item to another project; what that has no place for is said before it is done. */
export function ProjectChangeForm({ view, onDone }: { view: ItemView; onDone: () => void }) {
  const [to, setTo] = useState<string | null>(null);
  const [type, setType] = useState<string | null>(null);
  const query = { ...(to ? { to } : {}), ...(type ? { type } : {}) };
  const { data, error } = useQuery({
    ...queryOf(itemContract.elsewhere, { params: { key: view.key }, query }, { retry: false }),
    placeholderData: (before) => before,
  });
  if (!data) return error ? <Problem error={error} /> : <p className="text-ink-soft">Looking …</p>;
  if (data.projects.length === 0)
    return <p className="text-ink-soft">There is no other project in which you may make items.</p>;
  const change = data.change?.project.key === to ? data.change : null;
  return (
    <div className="flex flex-col gap-3">
      <Field label="To the project">
        <Select
          value={to ?? ""}
          placeholder="choose a project"
          options={data.projects.map(({ key, name }) => ({ value: key, label: name, about: key }))}
          onChange={(next) => {
            setTo(next);
            setType(null);
          }}
        />
      </Field>
      {error && <Problem error={error} />}
      {change && !error && (
        <ChangeForm
          key={`${change.project.key} ${change.typeId}`}
          view={view}
          change={change}
          onType={setType}
          onDone={onDone}
        />
      )}
    </div>
  );
}

function Problem({ error }: { error: unknown }) {
  const { sentence, help } = problemOf(error);
  return (
    <FormProblem>
      {sentence} {help}
    </FormProblem>
  );
}

function ChangeForm({
  view,
  change,
  onType,
  onDone,
}: {
  view: ItemView;
  change: ProjectChangeView;
  onType: (typeId: string) => void;
  onDone: () => void;
}) {
  const { openItem } = usePanel();
  const [chosen, setChosen] = useState<string | null>(null);
  const [own, setOwn] = useState<Record<string, OwnValue>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const states = change.types.find(({ id }) => id === change.typeId)?.states ?? [];
  const stateId = chosen ?? change.stateId;
  const move = async () => {
    setBusy(true);
    try {
      const { card, commandId } = await sendCommand(view.item.id, {
        kind: "change project",
        projectKey: change.project.key,
        typeId: change.typeId,
        stateId,
        own,
      });
      tellDone(`${view.key} is in ${change.project.name} now, as ${card.key}.`, async () => {
        await undoCommand(view.item.id, commandId);
        openItem(view.key);
      });
      onDone();
      openItem(card.key);
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      setBusy(false);
    }
  };
  return (
    <form
      aria-label="Move to another project"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void move();
      }}
    >
      {change.types.length > 1 && (
        <Field label="There it is of type">
          <Select value={change.typeId} options={namedOptions(change.types)} onChange={onType} />
        </Field>
      )}
      <Field label="And stands in">
        <Select value={stateId} options={namedOptions(states)} onChange={setChosen} />
      </Field>
      {change.asked.map((field) => (
        <FieldGroup key={field.id} label={field.name}>
          <OwnFieldInput
            field={field}
            value={own[field.id] ?? null}
            people={change.people}
            onChange={(value) => {
              const { [field.id]: _, ...others } = own;
              setOwn(value === null ? others : { ...others, [field.id]: value });
            }}
          />
        </FieldGroup>
      ))}
      <Meaning view={view} change={change} />
      <FormFooter
        send={`Move it to ${change.project.name}`}
        busy={busy}
        disabled={change.asked.some(({ id }) => own[id] === undefined)}
        problem={problem}
        onLeave={onDone}
      />
    </form>
  );
}

/** What stays as it is, and what it leaves behind. */
function Meaning({ view, change }: { view: ItemView; change: ProjectChangeView }) {
  return (
    <div className="text-[13px] text-ink-soft">
      <p>
        It gets a key of {change.project.key}, and {view.key} keeps leading to it. Its talk, files,
        links, history and clock go on.
        {change.below > 0 &&
          ` ${counted(change.below, "item")} under it ${change.below === 1 ? "goes" : "go"} with it.`}
      </p>
      {change.lost.length > 0 && (
        <>
          <p className="mt-2 font-semibold text-signal-ink">It leaves behind:</p>
          <ul className="list-disc pl-5">
            {change.lost.map((what) => (
              <li key={what}>{what}</li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
