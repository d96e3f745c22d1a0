import { and, desc, eq, lt } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { DesignChange, DesignHistoryView } from "@/core/workflow/design-change";
import { database, type Transaction } from "@/db/connection";
import { designChange, person } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";

/** So many changes are on a page. */
const PAGE = 50;

/** Whose change it was, of which project, and when. */
interface ChangedBy {
  projectId: string;
  byId: string | null;
  at?: number;
}

/** Writes down what somebody changed of how a project works; nothing where nothing is different. */
export async function keepDesignChange(
  tx: Transaction,
  { projectId, byId, at = Date.now() }: ChangedBy,
  change: DesignChange | null,
): Promise<void> {
  if (change === null) return;
  await tx.insert(designChange).values({ id: newId(), projectId, byId, at, ...change });
}

/** What was changed of how a project works, the latest first, for those who lead it. */
export async function readDesignHistory(
  viewer: Viewer,
  projectKey: string,
  before?: string,
): Promise<DesignHistoryView> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "edit workflow",
  });
  const rows = await db
    .select({ change: designChange, by: person.name })
    .from(designChange)
    .leftJoin(person, eq(person.id, designChange.byId))
    .where(
      and(
        eq(designChange.projectId, project.id),
        before === undefined ? undefined : lt(designChange.id, before),
      ),
    )
    .orderBy(desc(designChange.id))
    .limit(PAGE + 1);
  const changes = rows
    .slice(0, PAGE)
    .map(({ change: { id, at, area, said, differences }, by }) => ({
      id,
      at,
      by,
      area,
      said,
      differences,
    }));
  return { changes, next: rows.length > PAGE ? changes.at(-1)!.id : null };
}
