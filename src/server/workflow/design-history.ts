import { and, desc, eq, lt } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { DesignChange, DesignHistoryView } from "@/core/workflow/design-change";
import { database, type Transaction } from "@/db/connection";
import { designChange, person } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";

/** So many changes are on a page. */
const PAGE = 50;

/** Writes down what somebody changed of how a project works. */
export async function keepDesignChange(
  tx: Transaction,
  of: { projectId: string; byId: string | null; at: number },
  { area, said, differences }: DesignChange,
): Promise<void> {
  await tx.insert(designChange).values({ id: newId(), ...of, area, said, differences });
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
