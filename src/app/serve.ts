import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import next from "next";
import { closeDatabase } from "@/db/connection";
import { databaseAnswers } from "@/server/health";
import { log, traced } from "@/server/log";
import { holdPort, onStop, tellHeld, tellReady } from "@/server/supervised";
import { clientAddress, trustedProxies } from "./client-address";
import { ASKED_PAGE } from "./asked-page";
import { answerPlainly, plainAnswer } from "./plain-answer";

/*
 * The application process. Next serves the pages; what is ours is to hold the port from the first
 * moment, to tell routes the address of the client, to answer in words what never reaches a page,
 * and to stop well: no new request is taken, open streams are ended, what is in hand is finished,
 * then connections are given back.
 */

const GRACE_MS = 3_000;
const FIRST_PORT = 4310;

/**
 * What Next says of a page that failed goes into the log as everything else does: never with what
 * somebody wrote.
 */
function logLikeEverythingElse(): void {
  console.error = (...said: unknown[]) => {
    const error = said.find((s) => s instanceof Error);
    if (error) log.error(traced(error), "a page failed");
  };
}

async function serve(): Promise<void> {
  if (process.env.NODE_ENV === "production") logLikeEverythingElse();
  const { PORT, HOST, TRUST_PROXY, NODE_ENV } = process.env;
  const host = HOST ?? "127.0.0.1";
  const proxies = trustedProxies(TRUST_PROXY);
  let handle: ((request: IncomingMessage, response: ServerResponse) => Promise<void>) | null = null;
  const server = createServer((request, response) => {
    request.headers["x-client-address"] = clientAddress(
      request.headers,
      proxies,
      request.socket.remoteAddress,
    );
    request.headers[ASKED_PAGE] = request.url;
    const plain = plainAnswer(request, handle !== null);
    if (plain) return answerPlainly(request, response, plain);
    void (async () => {
      if (asksForPage(request) && (await databaseAway()))
        return answerPlainly(request, response, "database away");
      await handle!(request, response);
    })();
  });
  onStop(() => void stop(server));
  const port = await holdPort(server, Number(PORT ?? FIRST_PORT), host, PORT !== undefined);
  process.env.PORT = String(port);
  process.env.APP_URL ??= `http://localhost:${port}`;
  tellHeld({ app: port });
  const app = next({ dev: NODE_ENV !== "production", hostname: host, port, dir: process.cwd() });
  await app.prepare();
  handle = app.getRequestHandler();
  log.info({ port }, "application started");
  tellReady({ app: port });
}

const asksForPage = ({ method, url = "", headers }: IncomingMessage) =>
  method === "GET" &&
  !url.startsWith("/_next/") &&
  !url.startsWith("/api/") &&
  (headers.accept ?? "").includes("text/html");

let asked: Promise<boolean> | null = null;

/**
 * Whether the database does not answer: a page without it would be an error without words. Those
 * who ask at once share one look.
 */
function databaseAway(): Promise<boolean> {
  asked ??= databaseAnswers()
    .then((answers) => !answers)
    .finally(() => (asked = null));
  return asked;
}

async function stop(server: Server): Promise<void> {
  log.info("application stops");
  const force = setTimeout(() => server.closeAllConnections(), GRACE_MS);
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  const shared = globalThis as typeof globalThis & {
    zigzagStreams?: Set<{ close: () => void }>;
    zigzagHub?: { stop(): Promise<void> };
  };
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
