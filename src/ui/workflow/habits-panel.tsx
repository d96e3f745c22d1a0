"use client";
import type { ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import { isHabit, type BackwardStep, type Habits, type SkippedState } from "@/core/workflow/habits";
import type { Workflow } from "@/core/workflow/workflow";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { problemOf } from "@/ui/kit/request";
import { nameOf } from "./map-context";
import type { Designer } from "./use-designer";
import { useHabits } from "./use-habits";

/**
 * Where what happens says something else than the process: which states are passed by, which steps
 * go back, how often, and the two ways to put that right.
 */
export function HabitsPanel({
  designer,
  projectKey,
  workflowId,
}: {
  designer: Designer;
  projectKey: string;
  workflowId: string;
}) {
  const { data, error } = useHabits(projectKey, workflowId);
  if (error)
    return (
      <p role="alert">
        {problemOf(error).sentence} {problemOf(error).help}
      </p>
    );
  if (!data) return <p className="text-ink-soft">Reading what happened…</p>;
  if (data.steps === 0)
    return <p className="text-ink-soft">Nothing went through this process in {data.days} days.</p>;
  const told = { designer, habits: data };
  return (
    <section aria-label="As it went" className="grid grid-cols-2 gap-x-8 max-[1100px]:grid-cols-1">
      <p className="col-span-full text-[12.5px] text-ink-soft">
        {counted(data.steps, "step")} of the last {data.days} days, beside what is agreed. What
        happens often is a habit: change the process, or the habit.
      </p>
      <HabitList title="Passed by" none="Every state is gone through.">
        {data.skipped.map((one) => (
          <Skipped key={one.stateId} one={one} {...told} />
        ))}
      </HabitList>
      <HabitList title="Taken back" none="Nothing went back.">
        {data.backwards.map((one) => (
          <Backwards key={`${one.from} ${one.to}`} one={one} {...told} />
        ))}
      </HabitList>
    </section>
  );
}

function HabitList({
  title,
  none,
  children,
}: {
  title: string;
  none: string;
  children: ReactNode[];
}) {
  return (
    <div>
      <h3 className="mt-2 text-[13px]">{title}</h3>
      {children.length === 0 && <p className="text-ink-soft">{none}</p>}
      <ul>{children}</ul>
    </div>
  );
}

interface Told {
  designer: Designer;
  habits: Habits;
}

/** How often it happened; a press lists the items. */
function Often({ one, title }: { one: SkippedState | BackwardStep; title: string }) {
  const { openBehind } = usePanel();
  const share = Math.round((100 * one.times) / one.of);
  return (
    <TextButton onClick={() => openBehind({ title, ids: one.itemIds })}>
      <b className={isHabit(one) ? "text-signal-ink" : ""}>
        {one.times} of {one.of}
      </b>{" "}
      times ({share} %)
    </TextButton>
  );
}

/** The move that leads from a state to another; one of the draft, as its rules are what is changed. */
const moveBetween = (draft: Workflow, from: string, to: string) =>
  draft.transitions.find((t) => t.to === to && (t.from === null || t.from.includes(from)));

function Skipped({ one, designer, habits }: Told & { one: SkippedState }) {
  const { draft, select } = designer;
  const name = nameOf(draft, one.stateId);
  const moves = one.past.flatMap(({ from, to, times }) => {
    const move = moveBetween(draft, from, to);
    return move ? [{ id: move.id, verb: move.verb, from, times }] : [];
  });
  return (
    <li className="border-t border-line py-1.5 text-[13px]">
      <b>{name}</b> was passed by{" "}
      <Often one={one} title={`${name} passed by in ${habits.days} days`} />
      {isHabit(one) && (
        <p className="text-ink-soft">
          Change the process:{" "}
          <TextButton onClick={() => select({ kind: "state", id: one.stateId })}>
            look at {name}
          </TextButton>
          {moves.length > 0 && "; or the habit: a rule on "}
          {moves.slice(0, 3).map(({ id, verb, from, times }, i) => (
            <span key={id}>
              {i > 0 && ", "}
              <TextButton onClick={() => select({ kind: "transition", id })}>
                “{verb}” from {nameOf(draft, from)}
              </TextButton>{" "}
              ({times} ×)
            </span>
          ))}
          .
        </p>
      )}
    </li>
  );
}

function Backwards({ one, designer, habits }: Told & { one: BackwardStep }) {
  const { draft, select } = designer;
  const [from, to] = [nameOf(draft, one.from), nameOf(draft, one.to)];
  const into = draft.transitions.filter((t) => t.to === one.from);
  const move = moveBetween(draft, one.from, one.to);
  return (
    <li className="border-t border-line py-1.5 text-[13px]">
      From <b>{from}</b> back to <b>{to}</b>{" "}
      <Often one={one} title={`From ${from} back to ${to} in ${habits.days} days`} />
      {isHabit(one) && (
        <p className="text-ink-soft">
          Change the process:{" "}
          {into.slice(0, 2).map(({ id, verb }) => (
            <span key={id}>
              <TextButton onClick={() => select({ kind: "transition", id })}>
                ask for more before “{verb}”
              </TextButton>
              ;{" "}
            </span>
          ))}
          or the habit
          {move && (
            <>
              :{" "}
              <TextButton onClick={() => select({ kind: "transition", id: move.id })}>
                what “{move.verb}” asks for
              </TextButton>
            </>
          )}
          .
        </p>
      )}
    </li>
  );
}
