import { setFrom, settingsOf } from "../workflow/dated-settings";
import { eq } from "drizzle-orm";
import { OFFICE_HOURS } from "@/core/calendar/working-time";
import type { Instant } from "@/core/calendar/instant";
import { datedPromises, type DatedPromises } from "@/core/intake/dated-promises";
import type { ServiceTarget } from "@/core/intake/service-target";
import { FIRST_MODEL } from "@/core/intake/scoring";
import { FIRST_TRIAGE_RULES } from "@/core/intake/triage-rules";
import { refuse } from "@/core/workflow/refusal";
import { transact, type Reader, type Transaction } from "@/db/connection";
import { intakeRules } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { Refused } from "../refused";
import { plainChange } from "@/core/workflow/design-change";
import { same } from "@/core/workflow/same";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import type { RulesRequest } from "@/core/intake/request";
import type { IntakeRules } from "@/core/intake/promises-view";

/** Before everything that ever came in. */
export const EVER: Instant = 0;

/** The rules of a project; what it has not said is office hours, no promise, and a first model. */
export async function loadRules(reader: Reader, projectId: string): Promise<IntakeRules> {
  const [row] = await reader.select().from(intakeRules).where(eq(intakeRules.projectId, projectId));
  return (
    row ?? {
      calendar: OFFICE_HOURS,
      targets: [],
      scoring: FIRST_MODEL,
      triage: FIRST_TRIAGE_RULES,
      version: 0,
    }
  );
}

/** Changes some of a project's rules; what is left out stays. */
export async function editRules(
  viewer: Viewer,
  projectKey: string,
  { seenVersion, ...change }: RulesRequest,
  now = Date.now(),
): Promise<{ version: number }> {
  return transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const before = await loadRules(tx, project.id);
    if (before.version !== seenVersion)
      throw new Refused(
        refuse(
          "conflict",
          "Somebody else has changed these rules meanwhile.",
          "Look at them as they are now, then make your change again.",
        ),
      );
    const after = {
      calendar: change.calendar ?? before.calendar,
      targets: change.targets ?? before.targets,
      scoring: change.scoring ?? before.scoring,
      triage: change.triage ?? before.triage,
      version: before.version + 1,
    };
    await tx
      .insert(intakeRules)
      .values({ projectId: project.id, ...after })
      .onConflictDoUpdate({ target: intakeRules.projectId, set: after });
    if (change.calendar)
      await setFrom(tx, project.id, {
        setting: "calendar",
        value: change.calendar,
        validFrom: now,
      });
    if (change.targets)
      await promiseFrom(tx, project.id, { before: before.targets, after: change.targets, now });
    for (const part of RULE_PARTS)
      if (change[part] && !same(change[part], before[part]))
        await keepDesignChange(
          tx,
          { projectId: project.id, byId: viewer.personId, at: now },
          plainChange("intake", `changed ${RULE_WORDS[part]}`),
        );
    await announceDesign(tx, project.id, { kind: "triage rules changed", data: {} });
    return { version: after.version };
  });
}

const RULE_WORDS = {
  calendar: "the working calendar",
  targets: "what is promised",
  scoring: "how requests are weighed",
  triage: "the triage rules",
} as const;
const RULE_PARTS = Object.keys(RULE_WORDS) as (keyof typeof RULE_WORDS)[];

/**
 * Promises something from an instant on. What came in before it is owed what was promised then, also
 * where that was nothing.
 */
async function promiseFrom(
  tx: Transaction,
  projectId: string,
  { before, after, now }: { before: ServiceTarget[]; after: ServiceTarget[]; now: Instant },
): Promise<void> {
  const promises = (value: ServiceTarget[], validFrom: Instant) =>
    setFrom(tx, projectId, { setting: "promises", value, validFrom });
  if ((await settingsOf(tx, projectId, "promises")).length === 0) await promises(before, EVER);
  await promises(after, now);
}

/** What a project promised in the course of time. */
export const loadPromises = async (reader: Reader, projectId: string): Promise<DatedPromises> =>
  datedPromises(await settingsOf(reader, projectId, "promises"));
