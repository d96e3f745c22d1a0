import type { Adding, AddingAsked } from "@/core/item/adding/contract";
import { planAdding, type Planned } from "@/core/item/adding/plan";
import { filterParts } from "@/core/view/filter";
import { partText } from "@/core/view/filter-words";
import { loadBoard } from "../board/load";
import type { Viewer } from "../people/viewer";
import { enterProject } from "../people/access";
import { invalid } from "../refused";
import { projectTypes } from "../workflow/load";
import { loadVocabulary } from "../condition/vocabulary";
import { viewerAsker } from "../condition/asker";
import { database } from "@/db/connection";
import type { Vocabulary } from "@/core/condition/vocabulary";

/** What adding an item at a place means, before anything is added. */
export async function readAdding(
  viewer: Viewer,
  projectKey: string,
  { board, place, scope, filter, states, typeId, underTypeId }: AddingAsked,
  now = Date.now(),
): Promise<Adding> {
  const reader = database();
  const where = { key: projectKey };
  const { project } = await enterProject({ reader, viewer, where, action: "create item" });
  const [asker, vocabulary, types, head] = await Promise.all([
    viewerAsker(reader, viewer, project, now),
    loadVocabulary(reader, project.id),
    projectTypes(reader, project.id),
    board === null ? null : loadBoard(reader, project.id, board),
  ]);
  const ofBoard = head?.board.scope ?? null;
  const conditions = [place, ...(ofBoard ? [ofBoard] : []), scope, filter];
  const plan = planAdding(
    {
      ...types,
      parts: conditions.flatMap(filterParts),
      states,
      ownFields: asker.ownFields ?? [],
      typeId,
      underTypeId,
    },
    asker,
  );
  if (plan === null)
    throw invalid("No type of this project can stand there.", "Make one in Design, Types.");
  const { stateName, reached: _, unmet, ...adding } = plan;
  return { ...adding, elsewhere: elsewhere(plan, { stateName, unmet, vocabulary }) };
}

/** Why an item will not show where it is added, and where it will; null where it will. */
function elsewhere(
  { reached, types, typeId }: Planned,
  {
    stateName,
    unmet,
    vocabulary,
  }: Pick<Planned, "stateName" | "unmet"> & {
    vocabulary: Vocabulary;
  },
): string | null {
  const type = types.find(({ id }) => id === typeId)!.name;
  if (!reached)
    return `It will not show here: no move leads from ${stateName} to this column for “${type}”. It will be in ${stateName}.`;
  if (unmet.length === 0) return null;
  const parts = unmet.map((part) => `“${partText(part, vocabulary)}”`).join(" and ");
  return `It will not show here, where ${parts} is asked for. It will be in ${stateName}, found without that.`;
}
