import { setFrom } from "../workflow/dated-settings";
import { eq } from "drizzle-orm";
import { OFFICE_HOURS } from "@/core/calendar/working-time";
import { FIRST_MODEL } from "@/core/intake/scoring";
import { FIRST_TRIAGE_RULES } from "@/core/intake/triage-rules";
import { refuse } from "@/core/workflow/refusal";
import { transact, type Reader } from "@/db/connection";
import { intakeRules } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { Refused } from "../refused";
import { announceDesign } from "../workflow/announce";
import type { RulesRequest } from "@/core/intake/request";
import type { IntakeRules } from "@/core/intake/promises-view";

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
        validFrom: Date.now(),
      });
    await announceDesign(tx, project.id, { kind: "triage rules changed", data: {} });
    return { version: after.version };
  });
}
