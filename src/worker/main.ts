import { closeDatabase } from "@/db/connection";
import { fireTimers } from "@/server/item/trigger";
import { log } from "@/server/log";
import { consumeOutbox } from "./consume";
import { beat, clearOld, wakeParkedReports } from "./schedule";

/*
 * The background process: handles the outbox every half second and looks at the schedule every few seconds. On SIGTERM
 * it finishes what is in hand. When the database is away it says so once and goes on trying.
 */

const TICK_MS = 500;
const BEATS_EVERY = 6;
const CLEARS_EVERY = 7_200;
const TIMERS_EVERY = 120;

let stopping = false;
let wake: (() => void) | null = null;

for (const signal of ["SIGTERM", "SIGINT"] as const)
  process.on(signal, () => {
    stopping = true;
    wake?.();
  });

async function run(): Promise<void> {
  log.info("worker started");
  let failing = false;
  for (let tick = 0; !stopping; tick++) {
    try {
      if (tick % BEATS_EVERY === 0) {
        await beat();
        const woken = await wakeParkedReports();
        if (woken > 0) log.info({ woken }, "parked reports returned to the queue");
      }
      if (tick % TIMERS_EVERY === 0) {
        const moved = await fireTimers();
        if (moved > 0) log.info({ moved }, "items moved by time");
      }
      if (tick % CLEARS_EVERY === 0) await clearOld();
      while (!stopping && (await consumeOutbox()) > 0);
      if (failing) log.info("the database is back");
      failing = false;
    } catch (error) {
      if (!failing) log.error({ reason: (error as Error).message }, "worker cannot do its work, trying again");
      failing = true;
    }
    if (!stopping) await new Promise<void>((resolve) => ((wake = resolve), setTimeout(resolve, TICK_MS)));
  }
  await closeDatabase();
  log.info("worker stopped");
}

void run();
