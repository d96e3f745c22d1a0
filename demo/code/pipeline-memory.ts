import { randomBytes } from "node:crypto";
import { writeFileSync } from "node:fs";
import path from "node:path";
import type { Target } from "../../standins/sender";
import type { PipelineState } from "../../standins/pipeline/state";
import { ENVIRONMENTS } from "./deliveries";
import type { DemoCode } from "./with-code";

const BUILDS_KEPT = 60;

/** With which the code host signs what it tells the pipeline beside it, by repository. */
export const hostTargets = (codes: readonly DemoCode[]): Target[] =>
  codes.map(({ name }) => ({
    repository: name,
    address: `pipeline:/events/${name}`,
    secret: `whsec_${randomBytes(32).toString("base64")}`,
  }));

/** Writes down for the pipeline what it did so far. */
export function writePipelineMemory(
  folder: string,
  codes: readonly DemoCode[],
  { told, heard }: { told: readonly Target[]; heard: readonly Target[] },
): void {
  const state: PipelineState = {
    ...{ targets: [...told], events: [], runs: [], changes: [], failing: [] },
    followed: codes.map(({ name }) => ({
      ...{ repository: name, hostSecret: heard.find((one) => one.repository === name)!.secret },
      environments: ENVIRONMENTS.map((environment, i) => ({
        name: environment,
        automatic: i === 0,
      })),
    })),
    builds: codes.flatMap(({ name: repository, delivery }) =>
      delivery.builds
        .slice(-BUILDS_KEPT)
        .map(({ name, commit, at }) => ({ repository, name, commit, at })),
    ),
    standing: codes.flatMap(({ name: repository, delivery }) =>
      ENVIRONMENTS.flatMap((environment) => {
        const last = delivery.deployments.findLast(
          (one) => one.environment === environment && one.outcome !== "failed",
        );
        return last ? [{ repository, environment, build: last.build.name, at: last.at }] : [];
      }),
    ),
  };
  writeFileSync(path.join(folder, "pipeline.json"), JSON.stringify(state), { mode: 0o600 });
}
