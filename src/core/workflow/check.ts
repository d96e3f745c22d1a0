import { moveFindings } from "./check-moves";
import { namingFindings, shapeFindings } from "./check-shape";
import { boardFindings, stateFindings } from "./check-states";
import { ownFieldFindings, triggerFindings } from "./check-triggers";
import type { CheckSurroundings, Finding, Severity } from "./finding";
import type { Workflow } from "./workflow";

/** Everything that deserves a look before a workflow binds anybody, the worst first. */
export function checkWorkflow(workflow: Workflow, around: CheckSurroundings): Finding[] {
  const findings = [
    ...shapeFindings(workflow),
    ...namingFindings(workflow),
    ...stateFindings(workflow, around),
    ...boardFindings(workflow, around),
    ...workflow.transitions.flatMap((t) => moveFindings(workflow, t, around)),
    ...triggerFindings(workflow),
    ...ownFieldFindings(workflow, around),
  ];
  const order: Severity[] = ["trap", "weak", "hint"];
  return findings.sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
}
