import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";

/** A workflow as Mermaid text, a state diagram. */
export function writeMermaid(workflow: Workflow): string {
  const states = statesInOrder(workflow);
  const short = new Map<StateId, string>(states.map((s, i) => [s.id, `s${i + 1}`]));
  const lines = [
    "stateDiagram-v2",
    "  direction LR",
    ...states.map((s) => `  state "${plain(s.name)}" as ${short.get(s.id)}`),
    `  [*] --> ${short.get(states[0].id)}`,
  ];
  for (const t of workflow.transitions) {
    const from = t.from ?? states.map((s) => s.id).filter((id) => id !== t.to);
    for (const id of from)
      lines.push(`  ${short.get(id)} --> ${short.get(t.to)}: ${plain(t.verb)}`);
  }
  for (const s of states) if (s.kind === "finished") lines.push(`  ${short.get(s.id)} --> [*]`);
  for (const kind of ["waiting", "working"] as const) {
    const ids = states.filter((s) => s.kind === kind).map((s) => short.get(s.id));
    if (ids.length > 0) lines.push(`  class ${ids.join(",")} ${kind}`);
  }
  lines.push("  classDef waiting stroke-dasharray:4", "  classDef working stroke-width:2px");
  return `${lines.join("\n")}\n`;
}

/** Characters that mean something in the text are written as their entity codes. */
function plain(text: string): string {
  return text.replace(/["#;:<>{}\\]/g, (c) => `#${c.codePointAt(0)};`).replace(/\s+/g, " ");
}
