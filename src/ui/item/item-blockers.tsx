"use client";
import { Note } from "@/ui/kit/note";
import { TextInput } from "@/ui/kit/field";
import { Button, TextButton } from "@/ui/kit/button";
import { Octagon } from "lucide-react";
import { useState, type FormEvent } from "react";
import { tellProblem } from "@/ui/kit/notice";
import { span } from "@/ui/kit/time";
import type { ItemHandle } from "./use-item";

/** What keeps the item from going on: shown, lifted, added with its cause. */
export function ItemBlockers({ handle }: { handle: ItemHandle }) {
  const { view, send } = handle;
  const [adding, setAdding] = useState(false);
  const [cause, setCause] = useState("");
  const [waitingFor, setWaitingFor] = useState("");
  const add = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await send(
        { kind: "block", cause, waitingFor: waitingFor.trim() || null },
        `${view.key} is marked blocked.`,
      );
      setAdding(false);
      setCause("");
      setWaitingFor("");
    } catch (error) {
      tellProblem(error);
    }
  };
  const { openBlockers } = view.item;
  const may =
    view.rights.block && view.item.stateKind !== "finished" && view.item.withdrawnAt === null;
  if (openBlockers.length === 0 && !may) return null;
  return (
    <section className="flex flex-col gap-2">
      {openBlockers.map((b) => (
        <Note kind="problem" key={b.id} className="flex items-start gap-2">
          <Octagon
            size={15}
            className="mt-0.5 shrink-0 text-alarm"
            fill="currentColor"
            aria-hidden="true"
          />
          <p className="flex-1">
            <b>Blocked for {span(view.now - b.since)}:</b> {b.cause}
            {b.waitingFor ? `, waiting for ${b.waitingFor}` : ""}
          </p>
          {may && (
            <Button
              small
              onClick={() =>
                void send({ kind: "lift", blockId: b.id }, "The blocker is lifted.").catch(
                  tellProblem,
                )
              }
            >
              Lift blocker
            </Button>
          )}
        </Note>
      ))}
      {may &&
        (adding ? (
          <form
            onSubmit={(e) => void add(e)}
            className="flex flex-col gap-2"
            aria-label="Add a blocker"
          >
            <TextInput
              aria-label="Why can it not go on?"
              placeholder="Why can it not go on?"
              required
              maxLength={500}
              autoFocus
              value={cause}
              onChange={(e) => setCause(e.target.value)}
            />
            <TextInput
              aria-label="Waiting for whom or what"
              placeholder="Waiting for whom or what (if known)"
              maxLength={200}
              value={waitingFor}
              onChange={(e) => setWaitingFor(e.target.value)}
            />
            <div className="flex justify-end gap-2">
              <Button look="quiet" small onClick={() => setAdding(false)}>
                Not blocked
              </Button>
              <Button type="submit" small>
                Mark as blocked
              </Button>
            </div>
          </form>
        ) : (
          <TextButton className="self-start text-[13px]" onClick={() => setAdding(true)}>
            Add a blocker
          </TextButton>
        ))}
    </section>
  );
}
