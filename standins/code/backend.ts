import { spawn } from "node:child_process";
import type { IncomingMessage, ServerResponse } from "node:http";
import { GIT_ENV } from "./git";

/** What comes in a push, and how long it may take. */
const LARGEST = 256 * 1024 * 1024;
const LONGEST_MS = 180_000;
const LONGEST_HEAD = 64 * 1024;

/**
 * Hands a request to Debian's `git http-backend`, which speaks git's own protocol.
 * Source: git-http-backend(1), RFC 3875.
 * @param person whose push it is; null for somebody who only reads
 */
export function serveGit(
  request: IncomingMessage,
  response: ServerResponse,
  {
    root,
    path,
    query,
    person,
  }: { root: string; path: string; query: string; person: string | null },
): Promise<void> {
  return new Promise((resolve) => {
    const header = (name: string) => String(request.headers[name] ?? "");
    const child = spawn("git", ["http-backend"], {
      env: {
        ...GIT_ENV,
        GIT_PROJECT_ROOT: root,
        GIT_HTTP_EXPORT_ALL: "1",
        GIT_HTTP_MAX_REQUEST_BUFFER: "64M",
        PATH_INFO: path,
        QUERY_STRING: query,
        REQUEST_METHOD: request.method ?? "GET",
        CONTENT_TYPE: header("content-type"),
        CONTENT_LENGTH: header("content-length"),
        HTTP_CONTENT_ENCODING: header("content-encoding"),
        GIT_PROTOCOL: header("git-protocol"),
        // Only with a name does it take a push.
        ...(person === null ? {} : { REMOTE_USER: person }),
      } as unknown as NodeJS.ProcessEnv,
      timeout: LONGEST_MS,
      killSignal: "SIGKILL",
    });
    let taken = 0;
    request.on("data", (part: Buffer) => {
      taken += part.length;
      if (taken > LARGEST) child.kill("SIGKILL");
    });
    child.stdin.on("error", () => {});
    request.pipe(child.stdin);
    let head: Buffer | null = Buffer.alloc(0);
    child.stdout.on("data", (part: Buffer) => {
      if (head === null) return void response.write(part);
      head = Buffer.concat([head, part]);
      const end = head.indexOf("\r\n\r\n");
      if (end < 0) {
        if (head.length > LONGEST_HEAD) child.kill("SIGKILL");
        return;
      }
      response.writeHead(...headOf(head.subarray(0, end).toString("latin1")));
      response.write(head.subarray(end + 4));
      head = null;
    });
    child.on("error", () => end(response));
    child.on("close", () => {
      end(response);
      resolve();
    });
  });
}

function end(response: ServerResponse): void {
  if (!response.headersSent) response.writeHead(500, { "Content-Type": "text/plain" });
  response.end();
}

/** The status and the headers that a program of this kind begins its answer with. */
function headOf(head: string): [status: number, headers: Record<string, string>] {
  const headers: Record<string, string> = {};
  let status = 200;
  for (const line of head.split("\r\n")) {
    const at = line.indexOf(":");
    const [name, value] = [line.slice(0, at), line.slice(at + 1).trim()];
    if (name.toLowerCase() === "status") status = Number(value.slice(0, 3));
    else if (at > 0) headers[name] = value;
  }
  return [status, headers];
}
