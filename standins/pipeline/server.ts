import { createServer } from "node:http";
import { send } from "../answer";
import { Entry } from "../entry";
import { listen, LOOPBACK } from "../listen";
import { Sender } from "../sender";
import { Pipeline } from "./pipeline";
import { answer } from "./routes";
import type { Limits } from "./script";
import { PipelineMemory } from "./state";

/*
 * A small deployment pipeline for one machine: it runs the scripts of repositories that the code host
 * serves, and tells the product by signed events what it ran, built and deployed. It listens on loopback
 * only.
 */

export interface PipelineSettings {
  /** Null for any port that is free. */
  port: number | null;
  /** Where it remembers, and keeps logs. */
  root: string;
  /** With which the product signs who comes in. */
  secret: string;
  /** Where the code host serves repositories. */
  code: string;
  /** The product's address, once it is known. */
  product: string | null;
  limits?: Limits;
}

export interface PipelineStandIn {
  port: number;
  address: string;
  pipeline: Pipeline;
  memory: PipelineMemory;
  productIsAt: (address: string) => void;
  close: () => Promise<void>;
}

const FIRST_PORT = 4365;

export async function startPipelineStandIn({
  port,
  root,
  secret,
  code,
  product: first,
  limits,
}: PipelineSettings): Promise<PipelineStandIn> {
  const memory = new PipelineMemory(root);
  let product = first;
  const sender = new Sender(memory, (at) =>
    at.startsWith("/") ? product && `${product}${at}` : at,
  );
  const entry = new Entry(secret, "pipeline_session");
  let pipeline: Pipeline;
  const server = createServer((request, response) => {
    const url = new URL(request.url ?? "/", `http://${LOOPBACK}`);
    answer(request, { url, pipeline, memory, sender, entry, product })
      .then((given) => send(response, given))
      .catch((error: Error) => {
        console.error(error);
        send(response, { status: 500, body: "It broke." });
      });
  });
  const held = await listen(server, port, FIRST_PORT);
  const address = `http://localhost:${held}`;
  pipeline = new Pipeline(memory, sender, { address, code, limits });
  sender.start();
  pipeline.work();
  return {
    ...{ port: held, address, pipeline, memory },
    productIsAt: (at) => (product = at),
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await pipeline.stop();
      await sender.stop();
    },
  };
}
