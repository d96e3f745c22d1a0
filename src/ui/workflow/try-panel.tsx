"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { Check, X, Zap } from "lucide-react";
import { useState } from "react";
import type { MoveAnswers } from "@/core/item/command";
import { NOTHING_AROUND } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { NOTHING_OUTSIDE } from "@/core/item/outside";
import { triggerWords } from "@/core/workflow/trigger";
import type { DesignView } from "@/core/workflow/design-view";
import { afterTry, tryMoves, type TriedMove } from "@/core/workflow/try-item";
import { followUpWords } from "@/core/workflow/words";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { ask, problemOf } from "@/ui/kit/request";
import { StationMark } from "./station-mark";
import { itemContract } from "@/core/item/contract";
import { requirementWords } from "@/core/workflow/requirements/table";
import { TriedFields } from "@/ui/workflow/tried-fields";
import type { Vocabulary } from "@/core/condition/vocabulary";

/** An item made up for trying, in the first state of a workflow. */
function invented(workflow: Workflow, view: DesignView): ItemSnapshot {
  const [first] = statesInOrder(workflow);
  const now = Date.now();
  return {
    ...NEW_ITEM,
    id: "tried",
    projectId: view.project.id,
    number: 0,
    title: "An item to try",
    typeId: view.around.vocabulary.types.find((t) => t.workflowId === workflow.id)?.id ?? "",
    outside: NOTHING_OUTSIDE,
    stateId: first.id,
    stateKind: first.kind,
    enteredStateAt: now,
    rank: "a0",
    outcome: null,
    firstStartedAt: null,
    deliveredAt: null,
    finishedAt: null,
    clock: [],
    returns: 0,
    blockedSince: null,
    openBlockers: [],
    ticks: [],
    approvals: [],
    withdrawnAt: null,
    createdAt: now,
    createdBy: null,
    updatedAt: now,
    version: 1,
  };
}

/**
 * Walks an item, real or made up, through the draft: each rule is answered yes or no. Nothing is
 * stored.
 */
export function TryPanel({ draft, view }: { draft: Workflow; view: DesignView }) {
  const { vocabulary } = view.around;
  const [item, setItem] = useState(() => invented(draft, view));
  const [path, setPath] = useState<string[]>([]);
  const [answers, setAnswers] = useState<MoveAnswers>({});
  const [as, setAs] = useState(() => view.people.find((p) => p.role !== "observer")?.id ?? "");
  const [trouble, setTrouble] = useState("");
  const here = draft.states.find((s) => s.id === item.stateId);
  const person = view.people.find((p) => p.id === as);
  const actor = {
    personId: as,
    role: person?.role === "lead" ? ("lead" as const) : ("member" as const),
    teamIds: person?.teamIds ?? [],
  };
  const nameOf = (id: string) =>
    view.people.find((p) => p.id === id)?.name.split(" ")[0] ?? "somebody";
  const now = item.updatedAt;
  const moves = here
    ? tryMoves(draft, item, answers, {
        actor,
        around: { ...NOTHING_AROUND, everIn: [...path, item.stateId] },
        ownFields: vocabulary.own,
        asker: { personId: as, teamIds: actor.teamIds, now, zone: view.project.zone },
        teamsOf: (id) => view.people.find((p) => p.id === id)?.teamIds ?? [],
        vocabulary,
        mayOverrideLimits: false,
        nameOf,
        teamName: (id) => vocabulary.teams.find((t) => t.id === id)?.name ?? "a team",
      })
    : [];
  const set = (change: Partial<ItemSnapshot>) => setItem((i) => ({ ...i, ...change }));
  const restart = () => {
    setItem(invented(draft, view));
    setPath([]);
    setAnswers({});
  };
  const fetchItem = async (key: string) => {
    setTrouble("");
    try {
      const { item: found } = await ask(itemContract.read, { params: { key } });
      if (found.projectId !== view.project.id || !draft.states.some((s) => s.id === found.stateId))
        return setTrouble("That item does not follow this workflow.");
      setItem(found);
      setPath([]);
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setTrouble(`${sentence} ${help}`);
    }
  };
  const go = (move: TriedMove) => {
    setPath((p) => [...p, item.stateId]);
    setItem(afterTry(draft, item, move, { answers, actorId: as }));
    setAnswers({});
  };
  return (
    <div
      className="grid grid-cols-[minmax(0,300px)_minmax(0,1fr)] gap-6"
      aria-label="Try it"
      role="group"
    >
      <section className="flex flex-col gap-2">
        <p className="text-[12.5px] text-ink-soft">Nothing of this is stored.</p>
        <TakeItem projectKey={view.project.key} onTake={fetchItem} onRestart={restart} />
        {trouble && <FormProblem>{trouble}</FormProblem>}
        <TriedFields
          draft={draft}
          view={view}
          item={item}
          answers={answers}
          as={as}
          onAs={setAs}
          set={set}
          answer={(change) => setAnswers((a) => ({ ...a, ...change }))}
        />
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
          {moves.map((m) => (
            <TriedMoveLine
              key={m.transition.id}
              move={m}
              draft={draft}
              vocabulary={vocabulary}
              onMove={() => go(m)}
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

/** A move that leads on from here, with its rules answered one by one. */
function TriedMoveLine({
  move,
  draft,
  vocabulary,
  onMove,
}: {
  move: TriedMove;
  draft: Workflow;
  vocabulary: Vocabulary;
  onMove: () => void;
}) {
  return (
    <li className="border-t border-line py-1.5" data-tried-move={move.transition.verb}>
      <div className="flex items-center gap-2">
        <span className="flex-1 font-semibold">
          {move.transition.verb} → {draft.states.find((s) => s.id === move.to)?.name}
        </span>
        <Button
          small
          look={move.possible ? "accent" : "plain"}
          disabled={!move.possible}
          onClick={onMove}
        >
          Make this move
        </Button>
      </div>
      {move.notForYou && <Answer yes={false} words={move.notForYou} reason="" />}
      {move.requirements.map((r, i) => (
        <Answer
          key={i}
          yes={r.met}
          words={requirementWords(r.requirement, vocabulary)}
          reason={r.reason}
        />
      ))}
      {move.transition.triggers.map((t, i) => (
        <p key={i} className="flex items-start gap-1.5 text-[13px] text-ink-soft">
          <Zap size={13} className="mt-0.5 shrink-0" aria-hidden="true" /> waits to happen by itself
          when {triggerWords(t)}
        </p>
      ))}
      {move.transition.followUps.length > 0 && (
        <em className="block text-[13px] text-ink-soft">
          then {move.transition.followUps.map((f) => followUpWords(f, vocabulary)).join(", ")}
        </em>
      )}
    </li>
  );
}

function Answer({ yes, words, reason }: { yes: boolean; words: string; reason: string }) {
  return (
    <p className="flex items-start gap-1.5 text-[13px]">
      {yes ? (
        <Check size={14} className="mt-0.5 shrink-0 text-accent" aria-label="yes:" />
      ) : (
        <X size={14} className="mt-0.5 shrink-0 text-alarm" aria-label="no:" />
      )}
      <span>
        {words}
        {!yes && reason && <span className="text-ink-soft">. {reason}</span>}
      </span>
    </p>
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
