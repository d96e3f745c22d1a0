import { closeDatabase } from "@/db/connection";
import { checkReports } from "@/server/intake/check";
import { checkItems } from "@/server/item/check";
import { rebuildAllFlow } from "@/server/item/rebuild";

/**
 * Prints what disagrees in the database; exit code 1 when anything does. With --rebuild the read
 * model of the flow is made again from the events first.
 */
async function main(): Promise<void> {
  if (process.argv.includes("--rebuild"))
    console.log(`the flow of ${await rebuildAllFlow()} items made again from their events`);
  const { items, events, findings: ofItems } = await checkItems();
  const { reports, findings: ofReports } = await checkReports();
  const findings = [...ofItems, ...ofReports];
  await closeDatabase();
  for (const finding of findings.slice(0, 50)) console.log(finding);
  console.log(
    `${items} items, ${events} events, ${reports} reports: ${findings.length === 0 ? "snapshots, histories, stays, blocks, passages and what was told agree" : `${findings.length} findings`}`,
  );
  process.exit(findings.length === 0 ? 0 : 1);
}

void main();
