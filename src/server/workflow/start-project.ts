import { setFrom } from "./dated-settings";
import { proposeColumns } from "@/core/board/propose-columns";
import { FIRST_FORM } from "@/core/intake/form";
import { FIRST_TYPES } from "@/core/item/item-type";
import { refuse } from "@/core/workflow/refusal";
import { fromTemplate } from "@/core/workflow/template";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { SUB_TASKS } from "@/core/workflow/templates/sub-tasks";
import type { Workflow } from "@/core/workflow/workflow";
import { publishFirst } from "./publish-first";
import { database, sqlState, transact, type Transaction } from "@/db/connection";
import {
  board,
  boardColumn,
  columnState,
  intakeForm,
  itemType,
  membership,
  project,
} from "@/db/schema";
import { mayOutside } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, Refused } from "../refused";
import { v7 as newId } from "uuid";
import type { StartProjectRequest } from "@/core/workflow/request";

/** What a new project expects of its items until it has a history to go by. */
const FIRST_EXPECTATION = { days: 10, share: 0.85 };

/**
 * Starts a project from a template: its workflows, item types and a board. Whoever starts it leads
 * it.
 */
export async function startProject(
  viewer: Viewer,
  request: StartProjectRequest,
): Promise<{ key: string }> {
  if (!(await mayOutside(database(), viewer, "start project")))
    throw new Refused(
      refuse(
        "not allowed",
        "Whoever only looks on cannot start a project.",
        "Ask an administrator, or somebody who leads a project.",
      ),
    );
  const template = PROJECT_TEMPLATES.find((t) => t.name === request.template);
  if (!template) throw invalid("There is no such template.", "Choose one from the list.");
  const { name, key, visibility, zone } = request;
  try {
    return await transact(async (tx) => {
      const id = newId();
      await tx.insert(project).values({
        id,
        key,
        name,
        visibility,
        zone,
        expectationDays: FIRST_EXPECTATION.days,
        expectationShare: FIRST_EXPECTATION.share,
      });
      const validFrom = Date.now();
      await setFrom(tx, id, { setting: "zone", value: zone, validFrom });
      await setFrom(tx, id, { setting: "expectation", value: FIRST_EXPECTATION, validFrom });
      await tx
        .insert(membership)
        .values({ projectId: id, personId: viewer.personId, role: "lead" });
      const main = fromTemplate(template, newId);
      const tasks = fromTemplate(SUB_TASKS, newId);
      for (const w of [main, tasks])
        await publishFirst({
          tx,
          viewer,
          projectId: id,
          made: w,
          summary: `started from the template “${w.name}”`,
        });
      await tx.insert(itemType).values([
        { ...FIRST_TYPES.story, projectId: id, workflowId: main.id },
        { ...FIRST_TYPES.bug, projectId: id, workflowId: main.id },
        { ...FIRST_TYPES.request, projectId: id, workflowId: main.id },
        { ...FIRST_TYPES.task, projectId: id, workflowId: tasks.id },
      ]);
      await makeBoard(tx, id, [main]);
      await tx.insert(intakeForm).values({
        id: newId(),
        projectId: id,
        slug: "report",
        definition: FIRST_FORM,
        open: true,
        embeddable: false,
        position: 0,
        version: 1,
      });
      return { key };
    });
  } catch (error) {
    if (sqlState(error) === "23505")
      throw new Refused(
        refuse("invalid", `There is a project ${key} already.`, "Choose another key."),
      );
    throw error;
  }
}

async function makeBoard(tx: Transaction, projectId: string, workflows: Workflow[]): Promise<void> {
  const boardId = newId();
  await tx.insert(board).values({ id: boardId, projectId, name: "Everything" });
  for (const [position, { stage, name, part, stateIds }] of proposeColumns(workflows).entries()) {
    const columnId = newId();
    await tx.insert(boardColumn).values({ id: columnId, boardId, stage, name, part, position });
    await tx
      .insert(columnState)
      .values(stateIds.map((stateId) => ({ boardId, columnId, stateId })));
  }
}
