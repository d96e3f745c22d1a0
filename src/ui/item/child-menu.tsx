"use client";
import { ArrowDown, ArrowUp, Ellipsis, Split } from "lucide-react";
import { useState } from "react";
import type { ItemView } from "@/core/item/item-view";
import { Button } from "@/ui/kit/button";
import { Field } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { namedOptions, Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { sendCommand } from "./send-command";
import { statesFitting } from "./type-field";
import type { ItemHandle } from "./use-item";

type Child = ItemView["children"][number];

/** What is done to a child where it stands: its place among the others, and that it leaves. */
export function ChildMenu({ handle, child }: { handle: ItemHandle; child: Child }) {
  const { view, reload } = handle;
  const [leaving, setLeaving] = useState(false);
  const place = view.children.indexOf(child);
  /** The upper of two neighbours is set below the other one. */
  const setBelow = async (upper: Child, lower: Child) => {
    await sendCommand(upper.id, { kind: "place", below: lower.id }).catch(tellProblem);
    await reload();
  };
  return (
    <>
      <Menu
        align="end"
        trigger={
          <Button small look="quiet" aria-label={`More for ${child.key}`} title="More">
            <Ellipsis size={14} aria-hidden="true" />
          </Button>
        }
      >
        <MenuItem
          sign={<ArrowUp size={14} aria-hidden="true" />}
          disabled={place === 0}
          onSelect={() => void setBelow(view.children[place - 1], child)}
        >
          One up
        </MenuItem>
        <MenuItem
          sign={<ArrowDown size={14} aria-hidden="true" />}
          disabled={place === view.children.length - 1}
          onSelect={() => void setBelow(child, view.children[place + 1])}
        >
          One down
        </MenuItem>
        <MenuItem sign={<Split size={14} aria-hidden="true" />} onSelect={() => setLeaving(true)}>
          Make it an item of its own …
        </MenuItem>
      </Menu>
      <Sheet
        open={leaving}
        onClose={() => setLeaving(false)}
        title={`${child.key} becomes an item of its own`}
      >
        <LeaveForm handle={handle} child={child} onDone={() => setLeaving(false)} />
      </Sheet>
    </>
  );
}

/** What a child is once it stands on its own: of which type, and in which of its states. */
function LeaveForm({
  handle: { view, reload },
  child,
  onDone,
}: {
  handle: ItemHandle;
  child: Child;
  onDone: () => void;
}) {
  const { typeId: now, stateId, stateKind } = child.card;
  const types = view.types.filter(
    ({ id, level, removedAt }) => id === now || (removedAt === null && level > 0),
  );
  const [typeId, setTypeId] = useState(
    () => types.find(({ id }) => id === view.item.typeId)?.id ?? now,
  );
  const type = types.find(({ id }) => id === typeId)!;
  const states = statesFitting(view, type, stateKind);
  const [wanted, setState] = useState<string | null>(null);
  const state =
    states.find(({ id }) => id === wanted) ?? states.find(({ id }) => id === stateId) ?? states[0];
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const leave = async () => {
    setBusy(true);
    try {
      await sendCommand(child.id, { kind: "put under", parentKey: null });
      if (typeId !== now)
        await sendCommand(child.id, { kind: "change type", typeId, stateId: state?.id ?? null });
      tellDone(`${child.key} is an item of its own now, of type ${type.name}.`);
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      setBusy(false);
    } finally {
      await reload();
    }
  };
  return (
    <form
      aria-label="An item of its own"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void leave();
      }}
    >
      <p className="text-[13px] text-ink-soft">
        It leaves {view.key} and keeps its key, its talk and its history.
      </p>
      <Field label="Of type">
        <Select value={typeId} options={namedOptions(types)} onChange={setTypeId} />
      </Field>
      {typeId !== now && states.length > 1 && (
        <Field label="Then it is in">
          <Select value={state?.id ?? ""} options={namedOptions(states)} onChange={setState} />
        </Field>
      )}
      <FormFooter send="Let it go" busy={busy} problem={problem} onLeave={onDone} />
    </form>
  );
}
