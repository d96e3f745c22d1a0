import { eq } from "drizzle-orm";
import type { Reader, Transaction } from "@/db/connection";
import { release } from "@/db/schema";
import { enterProject, type ProjectAccess } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { loadReleases } from "../../plan/timeboxes";
import { notFound } from "../../refused";

/** A release of a project. */
export interface OfRelease {
  /** Of the project. */
  key: string;
  release: string;
}

/** Enters a project to change one of its releases, which is locked. @throws Refused */
export async function enterRelease(
  tx: Transaction,
  viewer: Viewer,
  { key, release: id }: OfRelease,
): Promise<{ access: ProjectAccess; row: typeof release.$inferSelect }> {
  const access = await enterProject({
    ...{ reader: tx, viewer, where: { key }, action: "plan work" },
  });
  const listed = await loadReleases(tx, access.project.id);
  if (!listed.some((one) => one.id === id)) throw notFound("release");
  const [row] = await tx.select().from(release).where(eq(release.id, id)).for("update");
  return { access, row };
}

/** The release of a project that comes next, beside one of them; null where none is to come. */
export async function nextRelease(
  reader: Reader,
  projectId: string,
  beside: string,
): Promise<string | null> {
  const releases = await loadReleases(reader, projectId);
  const next = releases.find(({ id, releasedAt }) => releasedAt === null && id !== beside);
  return next?.id ?? null;
}
