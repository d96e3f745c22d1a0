"use client";
import { useState } from "react";
import type { ItemType } from "@/core/item/item-type";
import type { ItemView } from "@/core/item/item-view";
import { TextButton } from "@/ui/kit/button";
import { Field } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemOf } from "@/ui/kit/request";
import { usePanel } from "@/ui/kit/panel-context";
import { namedOptions, Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { ItemPicker, type PickedItem } from "./item-picker";
import { sendCommand } from "./send-command";
import { statesFitting } from "./type-field";
import type { ItemHandle } from "./use-item";

/** What an item stands under, opened or changed where it is said. */
export function ItemParent({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const { openItem } = usePanel();
  const [choosing, setChoosing] = useState(false);
  if (!view.parent) return null;
  return (
    <p className="text-[13px] text-ink-soft">
      under{" "}
      <TextButton onClick={() => openItem(view.parent!.key)}>
        {view.parent.key} {view.parent.title}
      </TextButton>
      {mayStandUnder(view) && (
        <>
          {" · "}
          <TextButton className="!text-ink-soft" onClick={() => setChoosing(true)}>
            put it elsewhere
          </TextButton>
          <ParentSheet handle={handle} open={choosing} onClose={() => setChoosing(false)} />
        </>
      )}
    </p>
  );
}

/** Whether somebody may say what an item stands under, and anything can stand under another here. */
export function mayStandUnder({ types, rights, withdrawn }: ItemView): boolean {
  const levels = new Set(types.flatMap((t) => (t.removedAt === null ? [t.level] : [])));
  return rights.edit && withdrawn === null && levels.size > 1;
}

/** Asks what an item stands under. */
export function ParentSheet({
  handle,
  open,
  onClose,
}: {
  handle: ItemHandle;
  open: boolean;
  onClose: () => void;
}) {
  return (
    <Sheet open={open} onClose={onClose} title={`${handle.view.key} stands under`}>
      <ParentForm handle={handle} onDone={onClose} />
    </Sheet>
  );
}

/** What it would have to become to stand under something no larger than it is; none where it fits. */
function typesBelow({ types, item }: ItemView, parent: PickedItem | null): ItemType[] {
  const levelOf = (id: string | undefined) => types.find((type) => type.id === id)?.level;
  const above = levelOf(parent?.typeId);
  if (above === undefined || above > (levelOf(item.typeId) ?? 0)) return [];
  return types.filter(({ level, removedAt }) => removedAt === null && level < above);
}

function ParentForm({ handle, onDone }: { handle: ItemHandle; onDone: () => void }) {
  const { view, send, reload } = handle;
  const [chosen, setChosen] = useState<PickedItem | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [wantedType, setType] = useState<string | null>(null);
  const [wantedState, setState] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const smaller = typesBelow(view, chosen);
  const type = smaller.find(({ id }) => id === wantedType) ?? smaller[0] ?? null;
  const states = type ? statesFitting(view, type, view.item.stateKind) : [];
  const keeps = states.some(({ id }) => id === view.item.stateId);
  const state = states.find(({ id }) => id === wantedState) ?? states[0] ?? null;
  const put = async (parentKey: string | null) => {
    const done = parentKey
      ? `${view.key} is under ${parentKey} now${type ? `, a ${type.name.toLowerCase()}` : ""}.`
      : `${view.key} is on its own.`;
    setBusy(true);
    try {
      if (parentKey && type) {
        const stateId = keeps ? null : (state?.id ?? null);
        await sendCommand(view.item.id, { kind: "change type", typeId: type.id, stateId });
      }
      await send({ kind: "put under", parentKey }, done);
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      await reload();
      setBusy(false);
    }
  };
  return (
    <form
      aria-label="What it stands under"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (chosen) void put(chosen.key);
      }}
    >
      <ItemPicker
        projectKey={view.project.key}
        not={view.item.id}
        openOnly
        label="The piece of work above it"
        proposed={[]}
        chosen={chosen}
        onChange={setChosen}
      />
      {type && (
        <>
          <p className="text-[13px] text-ink-soft">
            {chosen!.key} is no larger than it: it becomes a smaller one, and keeps its key, its
            talk and its history.
          </p>
          <Field label="It becomes">
            <Select value={type.id} options={namedOptions(smaller)} onChange={setType} />
          </Field>
          {!keeps && states.length > 1 && (
            <Field label="Then it is in">
              <Select value={state?.id ?? ""} options={namedOptions(states)} onChange={setState} />
            </Field>
          )}
        </>
      )}
      {view.parent && (
        <div>
          <TextButton onClick={() => void put(null)}>
            Take it out from under {view.parent.key}
          </TextButton>
        </div>
      )}
      <FormFooter
        send="Put it there"
        busy={busy}
        disabled={!chosen}
        problem={problem}
        onLeave={onDone}
      />
    </form>
  );
}
