import { limitOfState, limitSentence } from "@/core/board/limit";
import { counted } from "@/core/formats/counted";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { same } from "./same";
import { statesInOrder, type Transition, type Workflow } from "./workflow";
import type { State } from "./state";
import { triggerWords } from "./trigger";
import { followUpWords } from "./follow-ups/table";
import { moversWords } from "./words";
import { listWords } from "../formats/list-words";
import { requirementWords } from "./requirements/table";

/** One thing that is different, in words. */
export interface Difference {
  kind: "added" | "removed" | "changed";
  about: "state" | "move" | "workflow";
  sentence: string;
}

/** What is different in a workflow after a change, in words. A renamed state is the same state. */
export function differences(
  before: Workflow,
  after: Workflow,
  vocabulary: Vocabulary,
): Difference[] {
  const found: Difference[] = [];
  const add = (kind: Difference["kind"], about: Difference["about"], sentence: string) =>
    found.push({ kind, about, sentence });
  if (before.name !== after.name)
    add("changed", "workflow", `It is called “${after.name}” instead of “${before.name}”.`);
  const old = new Map(before.states.map((s) => [s.id, s]));
  const now = new Map(after.states.map((s) => [s.id, s]));
  for (const s of statesInOrder(after)) {
    const was = old.get(s.id);
    if (!was)
      add("added", "state", `New state ${s.name}, ${s.kind}${s.stage ? ` in ${s.stage}` : ""}.`);
    else
      for (const sentence of stateDifferences(was, s, vocabulary))
        add("changed", "state", sentence);
  }
  for (const s of statesInOrder(before))
    if (!now.has(s.id)) add("removed", "state", `${s.name} is gone.`);
  const order = (w: Workflow, kept: Map<string, State>) =>
    statesInOrder(w)
      .filter((s) => kept.has(s.id))
      .map((s) => s.id)
      .join();
  if (order(before, now) !== order(after, old))
    add(
      "changed",
      "workflow",
      `The order is now ${statesInOrder(after)
        .map((s) => s.name)
        .join(", ")}.`,
    );
  found.push(...moveDifferences(before, after, vocabulary));
  return found;
}

function stateDifferences(was: State, is: State, vocabulary: Vocabulary): string[] {
  const found: string[] = [];
  const name = is.name;
  const days = (n: number | null) => (n === null ? "not set" : counted(n, "day"));
  const team = (id: string | null) =>
    id === null
      ? "nobody in particular"
      : (vocabulary.teams.find((t) => t.id === id)?.name ?? "a team that is gone");
  const limit = (s: State) => limitSentence(limitOfState(s.limit));
  if (was.name !== is.name) found.push(`${was.name} is called ${is.name}.`);
  if (was.kind !== is.kind) found.push(`${name} is ${is.kind} instead of ${was.kind}.`);
  if (was.stage !== is.stage)
    found.push(`${name} belongs to ${is.stage ?? "no stage"} instead of ${was.stage ?? "none"}.`);
  if (was.byReviewer !== is.byReviewer)
    found.push(
      `In ${name} the work is the ${is.byReviewer ? "reviewer's, not the assignee's" : "assignee's, not the reviewer's"}.`,
    );
  if (was.teamId !== is.teamId)
    found.push(`In ${name} works ${team(is.teamId)} instead of ${team(was.teamId)}.`);
  if (was.expectedDays !== is.expectedDays)
    found.push(
      `The expected time in ${name} is ${days(is.expectedDays)} (was ${days(was.expectedDays)}).`,
    );
  if (was.tooOldDays !== is.tooOldDays)
    found.push(`Too old in ${name} is after ${days(is.tooOldDays)} (was ${days(was.tooOldDays)}).`);
  if (limit(was) !== limit(is))
    found.push(`The limit of ${name} is ${limit(is)} (was ${limit(was)}).`);
  if (was.outcomes.join() !== is.outcomes.join())
    found.push(
      `${name} allows ${is.outcomes.length > 0 ? listWords(is.outcomes, "and") : "any outcome"}.`,
    );
  for (const [before, after, when] of [
    [was.entryPolicies, is.entryPolicies, "To enter"],
    [was.exitPolicies, is.exitPolicies, "To leave"],
  ] as const) {
    for (const p of after.filter((p) => !before.some((b) => b.id === p.id)))
      found.push(`${when} ${name} is agreed: “${p.text}”.`);
    for (const p of before.filter((b) => !after.some((a) => a.id === b.id)))
      found.push(`${when} ${name} is not agreed any more: “${p.text}”.`);
    for (const p of after) {
      const b = before.find((x) => x.id === p.id);
      if (b && b.text !== p.text)
        found.push(`${when} ${name} is agreed “${p.text}” instead of “${b.text}”.`);
    }
  }
  return found;
}

function moveDifferences(before: Workflow, after: Workflow, vocabulary: Vocabulary): Difference[] {
  const found: Difference[] = [];
  const old = new Map(before.transitions.map((t) => [t.id, t]));
  for (const t of after.transitions) {
    const was = old.get(t.id);
    if (!was)
      found.push({
        kind: "added",
        about: "move",
        sentence: `New move ${route(t, after)}${rules(t, vocabulary)}.`,
      });
    else if (!same(was, t))
      found.push({
        kind: "changed",
        about: "move",
        sentence: [
          ...routeDifference(route(was, before), route(t, after)),
          ...ruleDifferences(route(t, after), was, t, vocabulary),
        ].join(" "),
      });
  }
  const kept = new Set(after.transitions.map((t) => t.id));
  for (const t of before.transitions.filter((t) => !kept.has(t.id)))
    found.push({
      kind: "removed",
      about: "move",
      sentence: `The move ${route(t, before)} is gone.`,
    });
  return found;
}

function route(t: Transition, workflow: Workflow): string {
  const name = (id: string) => workflow.states.find((s) => s.id === id)?.name ?? "?";
  return `“${t.verb}” from ${t.from === null ? "anywhere" : listWords(t.from.map(name), "and")} to ${name(t.to)}`;
}

const routeDifference = (was: string, is: string): string[] =>
  was === is ? [] : [`The move ${was} is now ${is}.`];

function ruleDifferences(
  move: string,
  was: Transition,
  is: Transition,
  vocabulary: Vocabulary,
): string[] {
  const [before, after] = [ruleWords(was, vocabulary), ruleWords(is, vocabulary)];
  const added = after.filter((words) => !before.includes(words));
  const gone = before.filter((words) => !after.includes(words));
  const bare = (t: Transition) => ({ ...t, from: null, to: "", verb: "" });
  if (added.length + gone.length === 0)
    return same(bare(was), bare(is)) ? [] : [`The move ${move} has other rules.`];
  const [now, then] = [added, gone].map((words) => words.join("; "));
  return added.length === 0
    ? [`The move ${move}, not any more: ${then}.`]
    : [`The move ${move}, from now on: ${now}.`, ...(then ? [`Not any more: ${then}.`] : [])];
}

function ruleWords(t: Transition, vocabulary: Vocabulary): string[] {
  const who = moversWords(t.who, vocabulary);
  return [
    ...(who ? [`only for ${who}`] : []),
    ...t.requirements.map((r) => requirementWords(r, vocabulary)),
    ...t.followUps.map((f) => `then ${followUpWords(f, vocabulary)}`),
    ...t.triggers.map((x) => `by itself when ${triggerWords(x)}`),
  ];
}

function rules(t: Transition, vocabulary: Vocabulary): string {
  const words = ruleWords(t, vocabulary);
  return words.length > 0 ? ` (${words.join("; ")})` : "";
}
