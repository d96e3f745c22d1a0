import { eq } from "drizzle-orm";
import type { DutyHolder } from "@/core/people/duty";
import type { Reader } from "@/db/connection";
import { duty } from "@/db/schema";

/** Who is named for which duty of a project. */
export async function loadDuties(reader: Reader, projectId: string): Promise<DutyHolder[]> {
  return reader
    .select({ duty: duty.duty, holderKind: duty.holderKind, holderId: duty.holderId })
    .from(duty)
    .where(eq(duty.projectId, projectId))
    .orderBy(duty.duty, duty.holderKind, duty.holderId);
}
