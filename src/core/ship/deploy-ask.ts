import { z } from "zod";

/** What is to be deployed where. */
export const wantedDeployment = z.object({
  repository: z.string().min(1).max(500),
  build: z.string().min(1).max(120),
  environmentId: z.uuid(),
});

/** What a pipeline is asked to do. */
export const deployAsk = wantedDeployment.extend({
  /** Made by whoever asks: asked again, it is the same. */
  id: z.uuid(),
  kind: z.enum(["deploy", "roll back"]),
  /** Whether it is to be done although the environment is frozen. */
  inFreeze: z.boolean().default(false),
});

export type DeployAsk = z.output<typeof deployAsk>;
