import { DAY, type Instant } from "@/core/calendar/instant";
import type { Workflow } from "@/core/workflow/workflow";

/** A version of a process, as it was published. */
export interface DemoVersion {
  definition: Workflow;
  at: Instant;
  byId: string;
  note: string;
}

/**
 * How a crew came to the process it has today: it began by hand, then agreed who reviews, then that
 * what comes back comes with a reason. The last version is `now`'s.
 */
export function demoVersions(today: Workflow, began: Instant, now: Instant): DemoVersion[] {
  const without = (workflow: Workflow, kinds: readonly string[]): Workflow => ({
    ...workflow,
    transitions: workflow.transitions.map((t) => ({
      ...t,
      requirements: t.requirements.filter((r) => !kinds.includes(r.kind)),
    })),
  });
  const reviewed = without(today, ["reason"]);
  const byHand = without(reviewed, ["filled", "different people"]);
  const passed = (workflow: Workflow): Workflow => ({
    ...workflow,
    transitions: workflow.transitions.map((t) =>
      t.verb === "Hand to review" ? { ...t, verb: "Done building" } : t,
    ),
  });
  return [
    {
      definition: { ...passed(byHand), version: 1 },
      at: began,
      byId: "ines",
      note: "The process as it was agreed on the first day.",
    },
    {
      definition: { ...reviewed, version: 2 },
      at: now - 93 * DAY,
      byId: "ines",
      note: "After the tickets that were read by the one who wrote them.",
    },
    {
      definition: { ...heeding(today), version: 3 },
      at: now - 37 * DAY,
      byId: "ines",
      note: "Testers sent things back and nobody knew why.",
    },
  ];
}

/** What is ready to go out comes back by itself when somebody it was shown to misses something. */
const heeding = (workflow: Workflow): Workflow => ({
  ...workflow,
  transitions: workflow.transitions.map((t) =>
    t.verb === "Pull out" ? { ...t, triggers: [{ kind: "something missing" }] } : t,
  ),
});
