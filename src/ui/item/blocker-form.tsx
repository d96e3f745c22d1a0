"use client";
import { useState, type FormEvent } from "react";
import { WAITS } from "@/core/item/blocker";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { Select } from "@/ui/kit/select";
import type { ItemHandle } from "./use-item";

/** Why an item cannot go on: in words, or an item that it waits for. */
export function BlockerForm({ handle, onDone }: { handle: ItemHandle; onDone: () => void }) {
  const { view, send } = handle;
  const [cause, setCause] = useState("");
  const [waitingFor, setWaitingFor] = useState("");
  const waits = openWaits(view);
  const [dependencyId, setDependencyId] = useState(waits[0]?.otherId ?? "");
  const add = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await send(
        {
          kind: "block",
          cause: cause.trim() || WAITS,
          waitingFor: waitingFor.trim() || null,
          ...(dependencyId ? { dependencyId } : {}),
        },
        `${view.key} is marked blocked.`,
      );
      onDone();
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <form onSubmit={(e) => void add(e)} className="flex flex-col gap-2" aria-label="Add a blocker">
      {waits.length > 0 && (
        <Select
          label="What it waits for"
          value={dependencyId}
          options={[
            ...waits.map(({ otherId, key, title }) => ({
              value: otherId,
              label: `${key} ${title}`,
            })),
            { value: "", label: "Something else" },
          ]}
          onChange={setDependencyId}
        />
      )}
      <TextInput
        aria-label="Why can it not go on?"
        placeholder={
          dependencyId ? "Why can it not go on without it? (if known)" : "Why can it not go on?"
        }
        required={!dependencyId}
        maxLength={500}
        autoFocus
        value={cause}
        onChange={(e) => setCause(e.target.value)}
      />
      {!dependencyId && (
        <TextInput
          aria-label="Waiting for whom or what"
          placeholder="Waiting for whom or what (if known)"
          maxLength={200}
          value={waitingFor}
          onChange={(e) => setWaitingFor(e.target.value)}
        />
      )}
      <div className="flex justify-end gap-2">
        <Button look="quiet" small onClick={onDone}>
          Not blocked
        </Button>
        <Button type="submit" small>
          Mark as blocked
        </Button>
      </div>
    </form>
  );
}

/** What an item waits for and is not blocked by yet. */
const openWaits = ({ links, item }: ItemHandle["view"]) =>
  links.filter(
    ({ wait, otherId }) =>
      wait !== null && !item.openBlockers.some((blocker) => blocker.dependencyId === otherId),
  );
