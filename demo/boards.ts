import type { board } from "@/db/schema";
import type { DemoProject } from "./projects";

/** The other looks at the same items that the crew keeps beside the board of the process. */
export function demoBoards(
  project: DemoProject,
): Pick<typeof board.$inferInsert, "id" | "name" | "columnsBy" | "scope">[] {
  const id = project.key.toLowerCase();
  const inProgress = {
    kind: "compare" as const,
    fact: "stateKind" as const,
    op: "one of" as const,
    value: ["waiting", "working"],
  };
  return [
    { id: `${id}-people`, name: "Who has what", columnsBy: "assignee", scope: inProgress },
    {
      id: `${id}-priorities`,
      name: "How urgent",
      columnsBy: "priority",
      scope: { kind: "compare", fact: "typeId", op: "is", value: "bug" },
    },
  ];
}
