"use client";
import { useState } from "react";
import type { ItemType } from "@/core/item/item-type";
import type { ItemView } from "@/core/item/item-view";
import { keepsStanding } from "@/core/item/keeps-standing";
import type { StateKind } from "@/core/workflow/state";
import { Button } from "@/ui/kit/button";
import { Field } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { namedOptions, Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import type { ItemHandle } from "./use-item";

/** The type of an item. One that follows another workflow asks in which of its states it is then. */
export function TypeField({ handle }: { handle: ItemHandle }) {
  const { view, send } = handle;
  const { typeId, stateId } = view.item;
  const [wanted, setWanted] = useState<ItemType | null>(null);
  const offered = view.types.filter((t) => t.removedAt === null || t.id === typeId);
  const change = async (type: ItemType, to: string | null) => {
    setWanted(null);
    await send(
      { kind: "change type", typeId: type.id, stateId: to },
      `${view.key} is of type ${type.name} now.`,
    ).catch(tellProblem);
  };
  const choose = (id: string) => {
    const type = offered.find((one) => one.id === id);
    if (!type || id === typeId) return;
    const keeps = view.workflowStates[type.workflowId]?.some((state) => state.id === stateId);
    if (keeps) return void change(type, null);
    const states = fittingStates(view, type);
    if (states.length === 1) return void change(type, states[0].id);
    // Not before the key that chose it is let go, or it would open the list of states as well.
    requestAnimationFrame(() => setWanted(type));
  };
  return (
    <label className="contents">
      <span className="self-center text-[12.5px] text-ink-soft">Type</span>
      <Select
        plain
        disabled={!view.rights.edit || view.withdrawn !== null}
        value={typeId}
        options={namedOptions(offered)}
        onChange={choose}
      />
      <Sheet
        open={wanted !== null}
        onClose={() => setWanted(null)}
        title={`${view.key} becomes: ${wanted?.name ?? ""}`}
      >
        {wanted && <StateForm view={view} type={wanted} onChange={change} />}
      </Sheet>
    </label>
  );
}

/** A type begins and ends nothing: only states that stand as the item does are offered. */
const fittingStates = (view: ItemView, type: ItemType) =>
  statesFitting(view, type, view.item.stateKind);

/** The states of a type's workflow in which something would stand as it does. */
export const statesFitting = (
  { workflowStates }: ItemView,
  { workflowId }: ItemType,
  standing: StateKind,
) => (workflowStates[workflowId] ?? []).filter(({ kind }) => keepsStanding(standing, kind));

function StateForm({
  view,
  type,
  onChange,
}: {
  view: ItemView;
  type: ItemType;
  onChange: (type: ItemType, to: string) => Promise<void>;
}) {
  const states = fittingStates(view, type);
  const alike =
    states.find(({ name }) => name === view.state.name) ??
    states.find(({ kind }) => kind === view.item.stateKind) ??
    states[0];
  const [to, setTo] = useState(alike?.id ?? "");
  return (
    <form
      aria-label="Change the type"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void onChange(type, to);
      }}
    >
      <p className="text-[13px] text-ink-soft">
        {type.name} follows another workflow. Now it is in {view.state.name}; its history and its
        clock go on.
      </p>
      <Field label="Then it is in">
        <Select value={to} options={namedOptions(states)} onChange={setTo} />
      </Field>
      <div>
        <Button look="accent" small type="submit" disabled={to === ""}>
          Change the type
        </Button>
      </div>
    </form>
  );
}
