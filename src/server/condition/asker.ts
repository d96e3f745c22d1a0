import { eq } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import type { Reader } from "@/db/connection";
import { teamMember } from "@/db/schema";
import { loadOwnFields } from "../item/own-fields";
import { seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";
import { sprintsNow } from "../plan/timeboxes";
import type { SqlAsker } from "./compile";

interface Zoned {
  id: string;
  zone: string;
}

/**
 * The project itself asks: in rules, limits and promises, which are the same for everybody. Nobody
 * is “me” there.
 */
export async function projectAsker(
  reader: Reader,
  project: Zoned,
  now: Instant,
): Promise<SqlAsker> {
  const [sprints, ownFields] = await Promise.all([
    sprintsNow(reader, project, now),
    loadOwnFields(reader, project.id),
  ]);
  return { personId: null, teamIds: [], now, zone: project.zone, sprints, ownFields };
}

/** A person asks, in what they look at: items around an item count as far as they may see them. */
export async function viewerAsker(
  reader: Reader,
  viewer: Viewer,
  project: Zoned,
  now: Instant,
): Promise<SqlAsker> {
  const [asker, teams] = await Promise.all([
    projectAsker(reader, project, now),
    reader
      .select({ id: teamMember.teamId })
      .from(teamMember)
      .where(eq(teamMember.personId, viewer.personId)),
  ]);
  return {
    ...asker,
    personId: viewer.personId,
    teamIds: teams.map((t) => t.id),
    sees: (of) => seesAnywhere(reader, viewer, of),
  };
}
