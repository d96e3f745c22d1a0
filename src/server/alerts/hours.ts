import { asc, eq, inArray } from "drizzle-orm";
import { usualHours, type PersonHours } from "@/core/alerts/hours";
import { database, transact, type Reader } from "@/db/connection";
import { dayOff, membership, personHours, project } from "@/db/schema";
import { grouped } from "@/core/item/grouped";
import type { Viewer } from "../people/viewer";

/** When some people work and may be written to; whoever said nothing has the usual hours. */
export async function hoursOf(
  reader: Reader,
  personIds: readonly string[],
): Promise<(personId: string) => PersonHours> {
  const ids = [...personIds];
  const [rows, daysOff, zones] = await Promise.all([
    reader.select().from(personHours).where(inArray(personHours.personId, ids)),
    reader.select().from(dayOff).where(inArray(dayOff.personId, ids)).orderBy(asc(dayOff.from)),
    reader
      .select({ personId: membership.personId, zone: project.zone })
      .from(membership)
      .innerJoin(project, eq(project.id, membership.projectId))
      .where(inArray(membership.personId, ids))
      .orderBy(asc(project.key)),
  ]);
  const off = grouped(daysOff, (row) => row.personId);
  return (personId) => {
    const own = (off.get(personId) ?? []).map(({ from, to }) => ({ from, to }));
    const row = rows.find((r) => r.personId === personId);
    if (!row) {
      const zone = zones.find((r) => r.personId === personId)?.zone ?? "UTC";
      return { ...usualHours(zone), daysOff: own };
    }
    const { zone, workDays, hoursADay, quietFrom, quietTo, morningAt, weeklyOn } = row;
    const quiet = quietFrom === null || quietTo === null ? null : { from: quietFrom, to: quietTo };
    return { zone, workDays, hoursADay, quiet, morningAt, weeklyOn, daysOff: own };
  };
}

/** Says when one works and may be written to. */
export async function setHours(viewer: Viewer, hours: PersonHours): Promise<PersonHours> {
  const { personId } = viewer;
  await transact(async (tx) => {
    const row = {
      zone: hours.zone,
      workDays: [...hours.workDays],
      hoursADay: hours.hoursADay,
      quietFrom: hours.quiet?.from ?? null,
      quietTo: hours.quiet?.to ?? null,
      morningAt: hours.morningAt,
      weeklyOn: hours.weeklyOn,
    };
    await tx
      .insert(personHours)
      .values({ personId, ...row })
      .onConflictDoUpdate({ target: personHours.personId, set: row });
    await tx.delete(dayOff).where(eq(dayOff.personId, personId));
    const days = new Map(hours.daysOff.map((one) => [one.from, one]));
    if (days.size > 0)
      await tx.insert(dayOff).values([...days.values()].map((one) => ({ personId, ...one })));
  });
  return (await hoursOf(database(), [personId]))(personId);
}
