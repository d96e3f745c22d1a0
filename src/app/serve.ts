import { createServer, type Server } from "node:http";
import next from "next";
import { closeDatabase } from "@/db/connection";
import { log } from "@/server/log";
import { clientAddress, trustedProxies } from "./client-address";

/*
 * The application process. Next serves the pages; what is ours is to tell routes the address of the client, and to stop
 * well: on SIGTERM no new request is taken, open streams are ended, what is in hand is finished, then connections are
 * given back.
 */

const GRACE_MS = 10_000;
/** Larger than anything that some route takes; each route has a bound of its own (problem.ts). */
const LARGEST_BODY = 32 * 1024 * 1024;

async function serve(): Promise<void> {
  const port = Number(process.env.PORT ?? 4310);
  const host = process.env.HOST ?? "127.0.0.1";
  const proxies = trustedProxies(process.env.TRUST_PROXY);
  const app = next({ dev: process.env.NODE_ENV !== "production", hostname: host, port, dir: process.cwd() });
  await app.prepare();
  const handle = app.getRequestHandler();
  const server = createServer((request, response) => {
    request.headers["x-client-address"] = clientAddress(request.headers, proxies, request.socket.remoteAddress);
    if (Number(request.headers["content-length"] ?? 0) > LARGEST_BODY) {
      response.writeHead(413, { "Content-Type": "application/problem+json", Connection: "close" });
      response.end(JSON.stringify({ type: "about:blank", title: "This is too large.", status: 413, detail: "Nothing was read of it." }));
      return;
    }
    void handle(request, response);
  });
  server.listen(port, host, () => log.info({ port }, "application started"));
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.once(signal, () => void stop(server));
}

async function stop(server: Server): Promise<void> {
  log.info("application stops");
  const force = setTimeout(() => server.closeAllConnections(), GRACE_MS);
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  const shared = globalThis as typeof globalThis & { zigzagStreams?: Set<{ close: () => void }>; zigzagHub?: { stop(): Promise<void> } };
  for (const { close } of [...(shared.zigzagStreams ?? [])]) close();
  server.closeIdleConnections();
  await closed;
  clearTimeout(force);
  await shared.zigzagHub?.stop();
  await closeDatabase();
  log.info("application stopped");
  process.exit(0);
}

void serve();
