import { randomUUID } from "node:crypto";
import { closeDatabase } from "@/db/connection";
import { commandItem } from "@/server/item/command";
import { Refused } from "@/server/refused";

/*
 * A process of its own that moves items as fast as it can, many at a time, as an application
 * process does. Each job is one JSON line on standard input; each answer is one line on standard
 * output, so that what was promised can be held against what is stored after a crash.
 */

export interface MoverJob {
  itemIds: string[];
  viewer: { personId: string; name: string; administrator: boolean };
  /** Moves to make in turn, over and over when `forever`. */
  path: { from: string; to: string }[];
  answers: object;
  forever: boolean;
}

async function moveAlong(job: MoverJob, itemId: string): Promise<void> {
  do {
    for (const { from, to } of job.path) {
      try {
        const { card } = await commandItem(job.viewer, {
          commandId: randomUUID(),
          itemId,
          command: { kind: "move", from, to, answers: job.answers },
        });
        console.log(`done ${itemId} ${card.version}`);
      } catch (error) {
        console.log(
          error instanceof Refused ? `refused ${itemId} ${error.refusal.code}` : `failed ${itemId}`,
        );
        if (!job.forever) return;
        if (!(error instanceof Refused)) await new Promise((resolve) => setTimeout(resolve, 50));
      }
    }
  } while (job.forever);
}

async function main(): Promise<void> {
  const job = JSON.parse(process.argv[2]) as MoverJob;
  await Promise.all(job.itemIds.map((id) => moveAlong(job, id)));
  await closeDatabase();
}

void main();
