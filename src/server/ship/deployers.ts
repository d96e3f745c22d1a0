import type { Reader } from "@/db/connection";
import { dutyBound } from "../people/duties";
import type { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";

type Access = Awaited<ReturnType<typeof enterProject>>;

/**
 * Whether somebody may have builds deployed: leads, and those whose duty it is to release; where nobody
 * is named for that, every member.
 */
export async function mayDeploy(reader: Reader, viewer: Viewer, access: Access): Promise<boolean> {
  if (access.may("edit workflow")) return true;
  if (!access.may("move item")) return false;
  const holders = await dutyBound(reader, access.project.id, "releases");
  return holders.some(({ id }) => id === viewer.personId);
}
