import { randomBytes } from "node:crypto";
import { DAY, MINUTE, type Instant } from "@/core/calendar/instant";
import { isoDate } from "@/core/calendar/zone";
import { seededRandom } from "@/core/forecast/random";
import type { Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import type { Target } from "../../standins/sender";
import { uuidSource } from "../ids";
import { inChunks } from "../in-chunks";
import { mailOf, PEOPLE } from "../people";
import { ENVIRONMENTS, type DemoDeployment } from "./deliveries";
import type { DemoCode } from "./with-code";

/** Who tells of the crew's builds. */
export const PIPELINE = "Pipeline of the quay";

/** Where the crew's pipeline takes requests: it runs beside the product. */
const ASKS_AT = "/ask";

/**
 * Stores what a project's pipeline has told, as if it had been heard when it happened, and the
 * project's environments.
 * @returns by which the pipeline tells more
 */
export async function loadDelivery(
  tx: Transaction,
  projectId: string,
  code: DemoCode,
  { seed, repositoryId, now }: { seed: number; repositoryId: string; now: Instant },
): Promise<Target> {
  const nextId = uuidSource(seededRandom(seed));
  const sourceId = nextId();
  const secret = `whsec_${randomBytes(32).toString("base64")}`;
  const { runs, builds, deployments } = code.delivery;
  await tx.insert(table.eventSource).values({
    ...{ id: sourceId, projectId, name: PIPELINE, secret, asksAt: ASKS_AT },
    ...{ createdBy: "ines", createdAt: code.beganAt, lastHeardAt: deployments.at(-1)?.at },
  });
  await inChunks(
    runs.map((run) => ({ repositoryId, branch: "main", ...run })),
    (c) => tx.insert(table.pipelineRun).values(c),
  );
  await inChunks(
    builds.map(({ name, commit, at }) => ({ repositoryId, name, commit, at })),
    (c) => tx.insert(table.codeBuild).values(c),
  );
  await inChunks(
    deployments.map((one) => ({ id: nextId(), repositoryId, ...rowOf(one, code.name) })),
    (c) => tx.insert(table.deployment).values(c),
  );
  await loadStandings(tx, repositoryId, code);
  await loadEnvironments(tx, projectId, { nextId, now });
  return { repository: code.name, address: `/api/events/${sourceId}`, secret };
}

function rowOf(
  { environment, outcome, build, at, byId }: DemoDeployment,
  part: string,
): Omit<typeof table.deployment.$inferInsert, "id" | "repositoryId"> {
  const by = PEOPLE.find(({ id }) => id === byId);
  return {
    ...{ part, environment, called: environment, outcome, at, complete: true },
    ...{ build: build.name, commit: build.commit },
    ...{ byName: by?.name ?? null, byMail: by ? mailOf(by) : null },
  };
}

/** Which commits came where and when, and left: as git's own parents say. */
async function loadStandings(
  tx: Transaction,
  repositoryId: string,
  { name: part, made, delivery }: DemoCode,
): Promise<void> {
  const standings = new Map<string, typeof table.commitStanding.$inferInsert>();
  for (const environment of ENVIRONMENTS) {
    let there = new Set<string>();
    for (const { build, at, outcome } of delivery.deployments.filter(
      (one) => one.environment === environment && one.outcome !== "failed",
    )) {
      const reach = reachOf(made.commits, build.commit, outcome === "deployed" ? there : new Set());
      const key = (hash: string) => `${environment} ${hash}`;
      if (outcome === "rolled back") {
        for (const hash of there) if (!reach.has(hash)) standings.get(key(hash))!.goneAt = at;
        there = reach;
        continue;
      }
      for (const hash of reach) {
        const known = standings.get(key(hash));
        if (known) Object.assign(known, { since: at, goneAt: null });
        else
          standings.set(key(hash), {
            ...{ repositoryId, environment, part, hash, since: at, firstAt: at, goneAt: null },
          });
        there.add(hash);
      }
    }
  }
  await inChunks([...standings.values()], (c) => tx.insert(table.commitStanding).values(c));
}

/** A commit and all before it that is not known already. */
function reachOf(
  commits: DemoCode["made"]["commits"],
  from: string,
  known: ReadonlySet<string>,
): Set<string> {
  const reach = new Set<string>();
  const ahead = [from];
  for (let hash = ahead.pop(); hash !== undefined; hash = ahead.pop()) {
    if (reach.has(hash) || known.has(hash)) continue;
    reach.add(hash);
    ahead.push(...commits.get(hash)!.parents);
  }
  return reach;
}

/** The environments, with the days around midwinter on which nothing goes live. */
async function loadEnvironments(
  tx: Transaction,
  projectId: string,
  { nextId, now }: { nextId: () => string; now: Instant },
): Promise<void> {
  const host = { tix: "tickets", gate: "gates", tide: "timetable" }[projectId] ?? projectId;
  const rows = ENVIRONMENTS.map((name, position) => ({
    ...{ id: nextId(), projectId, name, position, live: name === "live" },
    address: `https://${name === "live" ? "" : `${name}.`}${host}.saltmarsh.example/?item={key}`,
  }));
  await tx.insert(table.environment).values(rows);
  const year = new Date(now - 2 * DAY).getUTCFullYear();
  await tx.insert(table.freezeWindow).values({
    ...{ id: nextId(), environmentId: rows.at(-1)!.id, from: `${year}-12-24` },
    ...{
      until: isoDate(Date.UTC(year + 1, 0, 2) / DAY),
      why: "The boats are full, the crew is not",
    },
    ...{ setBy: "ines", setAt: now - 20 * DAY - 7 * MINUTE },
  });
}
