import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { listen, LOOPBACK } from "../listen";
import { serveGit } from "./backend";
import { send } from "../answer";
import { Entry } from "../entry";
import { CodeHost } from "./host";
import { answerPage } from "./routes";
import { branchesOf, folderOf } from "./repository";
import { Sender } from "../sender";
import { HostMemory, type HostPerson } from "./state";

/*
 * A small code host for one machine: real repositories, served by git's own program, with pages for
 * what git has no words for. It listens on loopback only, tells the product by signed events, and
 * knows of it nothing else.
 */

export interface CodeStandInSettings {
  /** Null for any port that is free. */
  port: number | null;
  /** Where the repositories are, and what the host remembers. */
  root: string;
  /** With which the product signs who comes in. */
  secret: string;
  /** The product's address, once it is known. */
  product: string | null;
}

export interface CodeStandIn {
  port: number;
  address: string;
  host: CodeHost;
  memory: HostMemory;
  productIsAt: (address: string) => void;
  pipelineIsAt: (address: string) => void;
  close: () => Promise<void>;
}

const FIRST_PORT = 4345;
/** An address that begins so is one of the pipeline that runs beside it. */
const PIPELINE = "pipeline:";

export async function startCodeStandIn({
  port,
  root,
  secret,
  product: first,
}: CodeStandInSettings): Promise<CodeStandIn> {
  const memory = new HostMemory(root);
  let product = first;
  let pipeline: string | null = null;
  const sender = new Sender(memory, (address) => {
    if (address.startsWith(PIPELINE))
      return pipeline && `${pipeline}${address.slice(PIPELINE.length)}`;
    return address.startsWith("/") ? product && `${product}${address}` : address;
  });
  const entry = new Entry(secret, "host_session");
  let host: CodeHost;
  const server = createServer((request, response) => {
    const url = new URL(request.url ?? "/", `http://${LOOPBACK}`);
    const work = url.pathname.startsWith("/git/")
      ? answerGit(request, response, { url, root, host })
      : answerPage(request, { url, host, memory, sender, entry, product }).then((answer) =>
          send(response, answer),
        );
    work.catch((error: Error) => {
      console.error(error);
      send(response, { status: 500, body: "It broke." });
    });
  });
  const held = await listen(server, port, FIRST_PORT);
  const address = `http://localhost:${held}`;
  host = new CodeHost(memory, sender, address);
  sender.start();
  if (memory.state.owesNews) await host.tellHowAllStands();
  return {
    port: held,
    address,
    host,
    memory,
    productIsAt: (at) => (product = at),
    pipelineIsAt: (at) => (pipeline = at),
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await sender.stop();
    },
  };
}

/** What git asks. Everybody on this machine may read; a push needs somebody's token. */
async function answerGit(
  request: IncomingMessage,
  response: ServerResponse,
  { url, root, host }: { url: URL; root: string; host: CodeHost },
): Promise<void> {
  const [, , file = "", ...rest] = url.pathname.split("/");
  const name = file.endsWith(".git") ? file.slice(0, -4) : "";
  const folder = folderOf(root, name);
  const way = rest.join("/");
  if (!folder || !/^(info\/refs|git-(upload|receive)-pack)$/.test(way)) {
    response.writeHead(404, { "Content-Type": "text/plain" });
    return void response.end("There is no such repository.\n");
  }
  const pushes =
    way === "git-receive-pack" || url.searchParams.get("service") === "git-receive-pack";
  const person = pushes ? personWith(request, host) : null;
  if (pushes && person === null) {
    response.writeHead(401, {
      "Content-Type": "text/plain",
      "WWW-Authenticate": 'Basic realm="your mail address and your token"',
    });
    return void response.end("A push needs your mail address and your token.\n");
  }
  const path = `/${name}.git/${way}`;
  const serve = () =>
    serveGit(request, response, {
      ...{ root, path, query: url.search.slice(1), person: person?.mail ?? null },
    });
  if (way !== "git-receive-pack") return serve();
  await host.alone(name, async () => {
    const before = await branchesOf(folder);
    await serve();
    await host.pushed(name, before, person!);
  });
}

/** Whose token came with a request (RFC 7617). */
function personWith(request: IncomingMessage, host: CodeHost): HostPerson | null {
  const [scheme, encoded = ""] = (request.headers.authorization ?? "").split(" ");
  if (scheme.toLowerCase() !== "basic") return null;
  const said = Buffer.from(encoded, "base64").toString("utf8");
  const [mail, token] = [said.slice(0, said.indexOf(":")), said.slice(said.indexOf(":") + 1)];
  const person = host.personOf(token);
  return person?.mail === mail.toLowerCase() ? person : null;
}
