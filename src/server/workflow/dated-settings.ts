import { and, eq } from "drizzle-orm";
import { valueAt, type DatedSettingName, type DatedValue } from "@/core/calendar/dated-setting";
import type { Instant } from "@/core/calendar/instant";
import type { WorkingCalendar } from "@/core/calendar/working-time";
import type { SizeScale } from "@/core/plan/size-scale";
import type { ServiceTarget } from "@/core/intake/service-target";
import { same } from "@/core/workflow/same";
import type { Reader, Transaction } from "@/db/connection";
import { datedSetting } from "@/db/schema";

/** What each setting holds. */
interface DatedSettings extends Record<DatedSettingName, unknown> {
  zone: string;
  expectation: { days: number; share: number };
  calendar: WorkingCalendar;
  promises: ServiceTarget[];
  sizes: SizeScale;
}

type DatedSetting = {
  [S in DatedSettingName]: { setting: S; value: DatedSettings[S]; validFrom: Instant };
}[DatedSettingName];

const settings = (reader: Reader, projectId: string, setting: DatedSettingName) =>
  reader
    .select({ validFrom: datedSetting.validFrom, value: datedSetting.value })
    .from(datedSetting)
    .where(and(eq(datedSetting.projectId, projectId), eq(datedSetting.setting, setting)));

/** Writes down from when on a setting of a project holds; one that it had already is left. */
export async function setFrom(
  tx: Transaction,
  projectId: string,
  { setting, value, validFrom }: DatedSetting,
): Promise<void> {
  const known = await settings(tx, projectId, setting);
  if (known.length > 0 && same(valueAt(known, validFrom), value)) return;
  await tx
    .insert(datedSetting)
    .values({ projectId, setting, validFrom, value })
    .onConflictDoUpdate({
      target: [datedSetting.projectId, datedSetting.setting, datedSetting.validFrom],
      set: { value },
    });
}

/** What a setting of a project was at an instant; null where it never had one. */
export async function settingAt<S extends DatedSettingName>(
  reader: Reader,
  projectId: string,
  { setting, at }: { setting: S; at: Instant },
): Promise<DatedSettings[S] | null> {
  return valueAt(await settingsOf(reader, projectId, setting), at);
}

/** What a setting of a project was from when on; empty where nobody has written it down. */
export async function settingsOf<S extends DatedSettingName>(
  reader: Reader,
  projectId: string,
  setting: S,
): Promise<DatedValue<DatedSettings[S]>[]> {
  return (await settings(reader, projectId, setting)) as DatedValue<DatedSettings[S]>[];
}
