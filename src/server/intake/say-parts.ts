import type { PartsBody } from "@/core/intake/request";
import { transact } from "@/db/connection";
import { withAgreedTerms } from "../item/terms/agreed";
import { loadTerms } from "../item/terms/load";
import type { Viewer } from "../people/viewer";
import { reportThroughDoor } from "./door";
import { lockSeenReport } from "./seen-report";

/**
 * Keeps with a report which parts of the product it is about, by the names that the project has for them.
 * @throws Refused where one of them is not offered any more
 */
export async function sayParts(
  viewer: Viewer,
  reportId: string,
  { parts: said }: PartsBody,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { row, access } = await lockSeenReport(tx, viewer, reportId, "judge report");
    const known = () => loadTerms(tx, access.project.id);
    const before = { labels: [], parts: row.parts ?? [] };
    const agreed = said && (await withAgreedTerms(known, { parts: said }, before)).parts;
    const command = { kind: "say parts" as const, before: row.parts, parts: agreed };
    await reportThroughDoor({ tx, by: viewer, row, command, now });
  });
}
