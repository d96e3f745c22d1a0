"use client";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import type { Workflow } from "@/core/workflow/workflow";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { StationMark } from "./station-mark";
import { TriedFields } from "./tried-fields";
import { TriedMoveLine } from "./tried-move";
import { useTried } from "./use-tried";

/**
 * Walks an item, real or made up, through the draft: each rule is answered yes or no. Nothing is
 * stored.
 */
export function TryPanel({ draft, view }: { draft: Workflow; view: DesignView }) {
  const tried = useTried(draft, view);
  const { here, path, moves, trouble } = tried;
  return (
    <div
      className="grid grid-cols-[minmax(0,300px)_minmax(0,1fr)] gap-6"
      aria-label="Try it"
      role="group"
    >
      <section className="flex flex-col gap-2">
        <p className="text-[12.5px] text-ink-soft">Nothing of this is stored.</p>
        <TakeItem
          projectKey={view.project.key}
          onTake={tried.fetchItem}
          onRestart={tried.restart}
        />
        {trouble && <FormProblem>{trouble}</FormProblem>}
        <TriedFields draft={draft} view={view} tried={tried} />
      </section>
      <section className="min-w-0">
        <p className="mb-1 flex flex-wrap items-center gap-1 text-[13px]">
          {path.map((id, i) => (
            <span key={i} className="text-ink-soft">
              {draft.states.find((s) => s.id === id)?.name} →
            </span>
          ))}
          {here && (
            <b
              className="inline-flex items-center gap-1.5 text-[15px]"
              data-tried-state={here.name}
            >
              <StationMark kind={here.kind} size={15} /> {here.name}
            </b>
          )}
        </p>
        {!here && (
          <p className="text-alarm">
            The state it was in is not in the draft any more. Start anew.
          </p>
        )}
        <ul>
          {moves.map((move) => (
            <TriedMoveLine
              key={`${path.length} ${move.transition.id}`}
              move={move}
              draft={draft}
              vocabulary={view.around.vocabulary}
              onGo={tried.go}
            />
          ))}
        </ul>
        {here && moves.length === 0 && (
          <p className="text-ink-soft">Nothing leads out of {here.name}.</p>
        )}
      </section>
    </div>
  );
}

/** Takes a real item to be tried, or begins again with a made-up one. */
function TakeItem({
  projectKey,
  onTake,
  onRestart,
}: {
  projectKey: string;
  onTake: (key: string) => Promise<void>;
  onRestart: () => void;
}) {
  const [wanted, setWanted] = useState("");
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void onTake(wanted.trim().toUpperCase());
      }}
    >
      <Field label="A real item, by its key">
        <TextInput
          className="key"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          placeholder={`${projectKey}-12`}
          maxLength={30}
        />
      </Field>
      <Button type="submit" small disabled={!wanted.trim()}>
        Take it
      </Button>
      <Button look="quiet" small onClick={onRestart}>
        Start anew
      </Button>
    </form>
  );
}
