import { isRead } from "@/core/condition/condition";
import { printCel } from "@/core/condition/cel-print";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { leadsFrom, statesInOrder, type Transition, type Workflow } from "@/core/workflow/workflow";
import type { State } from "@/core/workflow/state";
import { EXTENSION, SCXML } from "./scxml-names";
import { attributes, escapeText } from "./xml";

/**
 * A workflow as SCXML (State Chart XML, W3C Recommendation 1 September 2015). States are atomic
 * states inside one compound state, whose own transitions are those that lead from anywhere; a
 * finished state that nothing leads out of is `final`. What the recommendation cannot say (names in
 * any script, kinds, agreements, requirements, follow-ups, triggers) stands in elements and
 * attributes of this product's namespace, which other readers pass over.
 */
export function writeScxml(workflow: Workflow, vocabulary: Vocabulary): string {
  const states = statesInOrder(workflow);
  const fromAnywhere = workflow.transitions.filter((t) => t.from === null);
  const lines = [
    `<?xml version="1.0" encoding="UTF-8"?>`,
    `<scxml${attributes({ xmlns: SCXML, "xmlns:zz": EXTENSION, version: "1.0", name: workflow.name, initial: "process", datamodel: "x-cel", "zz:id": workflow.id, "zz:version": String(workflow.version) })}>`,
    `  <state${attributes({ id: "process", initial: xmlId(states[0].id) })}>`,
    ...fromAnywhere.flatMap((t) => transitionLines(workflow, t, vocabulary, "    ")),
    ...states.flatMap((s) => stateLines(workflow, s, vocabulary)),
    `  </state>`,
    `</scxml>`,
  ];
  return `${lines.join("\n")}\n`;
}

/** Ids in SCXML are XML names; a state's own id stands beside it. */
function xmlId(id: string): string {
  const plain = id.replace(/[^A-Za-z0-9_.-]/g, (c) => `_x${c.codePointAt(0)!.toString(16)}_`);
  return `s-${plain}`;
}

function stateLines(workflow: Workflow, state: State, vocabulary: Vocabulary): string[] {
  const out = workflow.transitions.filter((t) => leadsFrom(t, state.id));
  const element = state.kind === "finished" && out.length === 0 ? "final" : "state";
  const {
    id,
    name,
    kind,
    stage,
    position,
    teamId,
    byReviewer,
    expectedDays,
    tooOldDays,
    limit,
    entryPolicies,
    exitPolicies,
    outcomes,
  } = state;
  const open = `    <${element}${attributes({ id: xmlId(id), "zz:id": id, "zz:name": name, "zz:kind": kind, "zz:stage": stage, "zz:position": String(position), "zz:team": teamId, "zz:by-reviewer": byReviewer ? "true" : null, "zz:expected-days": expectedDays?.toString() ?? null, "zz:too-old-days": tooOldDays?.toString() ?? null })}>`;
  const more = {
    ...(limit ? { limit } : {}),
    ...(entryPolicies.length > 0 ? { entryPolicies } : {}),
    ...(exitPolicies.length > 0 ? { exitPolicies } : {}),
    ...(outcomes.length > 0 ? { outcomes } : {}),
  };
  const rules =
    Object.keys(more).length > 0
      ? [`      <zz:rules>${escapeText(JSON.stringify(more))}</zz:rules>`]
      : [];
  return [
    open,
    ...rules,
    ...out.flatMap((t) => transitionLines(workflow, t, vocabulary, "      ")),
    `    </${element}>`,
  ];
}

function transitionLines(
  workflow: Workflow,
  transition: Transition,
  vocabulary: Vocabulary,
  indent: string,
): string[] {
  const { id, to, verb, who, requirements, followUps, triggers } = transition;
  const condition = requirements.find((r) => r.kind === "condition")?.condition;
  const open = `${indent}<transition${attributes({ event: eventName(verb), cond: condition && isRead(condition) ? printCel(condition, vocabulary) : null, target: xmlId(to), "zz:id": id, "zz:verb": verb })}`;
  const more = {
    ...(who.length > 0 ? { who } : {}),
    ...(requirements.length > 0 ? { requirements } : {}),
    ...(followUps.length > 0 ? { followUps } : {}),
    ...(triggers.length > 0 ? { triggers } : {}),
  };
  if (Object.keys(more).length === 0) return [`${open}/>`];
  return [
    `${open}>`,
    `${indent}  <zz:rules>${escapeText(JSON.stringify(more))}</zz:rules>`,
    `${indent}</transition>`,
  ];
}

/** An event descriptor: words joined by dots. */
function eventName(verb: string): string {
  return (
    verb
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, ".")
      .replace(/^\.|\.$/g, "") || "move"
  );
}
