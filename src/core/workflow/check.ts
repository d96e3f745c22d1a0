import { ownFieldFindings } from "./check-fields";
import { moveFindings } from "./check-moves";
import { namingFindings, shapeFindings } from "./check-shape";
import { boardFindings, stateFindings } from "./check-states";
import { teamFindings } from "./check-teams";
import { triggerFindings } from "./check-triggers";
import type { CheckSurroundings, Finding, Severity } from "./finding";
import { listWords } from "@/core/formats/list-words";
import type { Workflow } from "./workflow";

/** Everything that deserves a look before a workflow binds anybody, the worst first. */
export function checkWorkflow(workflow: Workflow, around: CheckSurroundings): Finding[] {
  const findings = [
    ...shapeFindings(workflow),
    ...namingFindings(workflow),
    ...stateFindings(workflow, around),
    ...boardFindings(workflow, around),
    ...teamFindings(workflow, around),
    ...workflow.transitions.flatMap((t) => moveFindings(workflow, t, around)),
    ...triggerFindings(workflow),
    ...ownFieldFindings(workflow, around),
  ];
  const order: Severity[] = ["trap", "weak", "hint"];
  return asCauses(findings).sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
}

/** So many places of one cause are named; of the others only how many there are. */
const PLACES_NAMED = 3;

/** Findings of one cause as one finding, at the first of its places. */
function asCauses(findings: readonly Finding[]): Finding[] {
  const told = new Set<string>();
  return findings.flatMap((found) => {
    const { cause } = found;
    if (!cause) return [found];
    if (told.has(cause.of)) return [];
    told.add(cause.of);
    const places = findings.flatMap((f) => (f.cause?.of === cause.of ? [f.cause.at] : []));
    const named = places.slice(0, PLACES_NAMED);
    const others = places.length - named.length;
    const words = others > 0 ? [...named, `${others} more`] : named;
    return [{ ...found, sentence: cause.sentence(listWords(words, "and")) }];
  });
}
