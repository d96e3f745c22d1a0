import type { IncomingMessage, ServerResponse } from "node:http";
import { plainHtml } from "./plain-page";

/** What is answered before, or instead of, the pages. */
export type PlainAnswer = "starting" | "too large" | "bad address" | "database away";

/** Larger than anything that some route takes; each route has a bound of its own (problem.ts). */
const LARGEST_BODY = 32 * 1024 * 1024;

interface Words {
  status: number;
  title: string;
  detail: string;
  retryAfter?: number;
}

const WORDS: Record<PlainAnswer, Words> = {
  starting: {
    status: 503,
    title: "The product is starting.",
    detail: "It is there in a moment; this page asks again by itself.",
    retryAfter: 1,
  },
  "too large": { status: 413, title: "This is too large.", detail: "Nothing was read of it." },
  "bad address": {
    status: 404,
    title: "There is no such address.",
    detail: "It has characters in it that no address of the product has.",
  },
  "database away": {
    status: 503,
    title: "The database cannot be reached just now.",
    detail: "Nothing was lost and nothing was stored. This page asks again by itself.",
    retryAfter: 2,
  },
};

/** What a request is answered without asking a page; null where a page or route answers it. */
export function plainAnswer(
  request: Pick<IncomingMessage, "url" | "headers">,
  started: boolean,
): PlainAnswer | null {
  if (!started) return "starting";
  if (Number(request.headers["content-length"] ?? 0) > LARGEST_BODY) return "too large";
  return isReadable(request.url ?? "") ? null : "bad address";
}

/**
 * Whether an address is what it says: percent signs that stand for letters, and no null among them.
 */
function isReadable(url: string): boolean {
  try {
    return !decodeURIComponent(url.split("?")[0]).includes("\u0000");
  } catch {
    return false;
  }
}

/** Answers people with a page and programs with problem details (RFC 9457). */
export function answerPlainly(
  request: IncomingMessage,
  response: ServerResponse,
  answer: PlainAnswer,
): void {
  const { status, title, detail, retryAfter } = WORDS[answer];
  const page = (request.headers.accept ?? "").includes("text/html");
  const body = page
    ? plainHtml(title, [detail], retryAfter)
    : JSON.stringify({
        type: "about:blank",
        title,
        status,
        detail,
        code: status === 503 ? "unavailable" : "invalid",
      });
  response.writeHead(status, {
    "Content-Type": page ? "text/html; charset=utf-8" : "application/problem+json",
    "Cache-Control": "no-store",
    "X-Content-Type-Options": "nosniff",
    ...(retryAfter ? { "Retry-After": String(retryAfter) } : {}),
    ...(status === 413 ? { Connection: "close" } : {}),
  });
  response.end(body);
}
