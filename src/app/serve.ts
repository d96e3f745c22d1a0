import { createServer, type Server } from "node:http";
import next from "next";
import { closeDatabase } from "@/db/connection";
import { log } from "@/server/log";

/*
 * The application process. Next serves the pages; what is ours is to tell routes the address of the client, and to stop
 * well: on SIGTERM no new request is taken, open streams are ended, what is in hand is finished, then connections are
 * given back.
 */

const GRACE_MS = 10_000;

async function serve(): Promise<void> {
  const port = Number(process.env.PORT ?? 4310);
  const host = process.env.HOST ?? "127.0.0.1";
  const app = next({ dev: process.env.NODE_ENV !== "production", hostname: host, port, dir: process.cwd() });
  await app.prepare();
  const handle = app.getRequestHandler();
  const server = createServer((request, response) => {
    // Behind a proxy that is ours the address comes from it; otherwise nobody can choose their own.
    const forwarded = process.env.TRUST_PROXY === "1" ? String(request.headers["x-forwarded-for"] ?? "").split(",")[0].trim() : "";
    request.headers["x-client-address"] = forwarded || request.socket.remoteAddress || "unknown";
    void handle(request, response);
  });
  server.listen(port, host, () => log.info({ port }, "application started"));
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.once(signal, () => void stop(server));
}

async function stop(server: Server): Promise<void> {
  log.info("application stops");
  const force = setTimeout(() => server.closeAllConnections(), GRACE_MS);
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  const shared = globalThis as typeof globalThis & { zigzagStreams?: Set<() => void>; zigzagHub?: { stop(): Promise<void> } };
  for (const close of [...(shared.zigzagStreams ?? [])]) close();
  server.closeIdleConnections();
  await closed;
  clearTimeout(force);
  await shared.zigzagHub?.stop();
  await closeDatabase();
  log.info("application stopped");
  process.exit(0);
}

void serve();
