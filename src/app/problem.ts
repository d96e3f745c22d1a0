import { z } from "zod";
import { isUnreachable, sqlState, tookTooLong } from "@/db/connection";
import { log, traced } from "@/server/log";
import { viewerOf, type Viewer } from "@/server/people/viewer";
import { Refused, STATUS_OF } from "@/server/refused";
import { inTurn } from "@/core/contract/in-turn";
import { withToldStatus } from "./told-status";

/** An answer in the form of RFC 9457, problem details for HTTP APIs. */
export function problem({
  status,
  title,
  detail,
  more = {},
  headers = {},
}: {
  status: number;
  title: string;
  detail: string;
  more?: Record<string, unknown>;
  headers?: Record<string, string>;
}): Response {
  return new Response(JSON.stringify({ type: "about:blank", title, status, detail, ...more }), {
    status,
    headers: {
      "Content-Type": "application/problem+json",
      "Cache-Control": "no-store",
      ...headers,
    },
  });
}

/**
 * The problem that fits an error of a use case. Nothing about the inside of the system gets out.
 */
export function problemOf(error: unknown): Response {
  if (error instanceof Refused) {
    const { refusal } = error;
    return problem({
      status: STATUS_OF[refusal.code],
      title: refusal.sentence,
      detail: refusal.help,
      more: {
        code: refusal.code,
        asks: refusal.asks,
        conflict: refusal.conflict,
        version: refusal.version,
      },
    });
  }
  if (error instanceof z.ZodError) {
    const errors = error.issues.map((i) => ({ field: i.path.join("."), message: i.message }));
    return problem({
      status: 422,
      title: "Something in this request is not right.",
      detail: errors[0]
        ? `${errors[0].field ? `${errors[0].field}: ` : ""}${errors[0].message}`
        : "",
      more: { code: "invalid", errors },
    });
  }
  if (error instanceof BodyProblem)
    return problem({
      status: error.status,
      title: error.message,
      detail: error.help,
      more: { code: "invalid" },
    });
  if (isUnreachable(error))
    return problem({
      status: 503,
      title: "The database cannot be reached just now.",
      detail: "Nothing was lost and nothing was stored. Try again in a moment.",
      more: { code: "unavailable" },
      headers: { "Retry-After": "2" },
    });
  if (tookTooLong(error))
    return problem({
      status: 422,
      title: "This took too long and was stopped.",
      detail: "Nothing was stored. Ask for less at once: a shorter period, or a simpler condition.",
      more: { code: "too costly" },
    });
  const state = sqlState(error);
  // Two who do the same at one moment: the second finds it done.
  if (state === "23505")
    return problem({
      status: 409,
      title: "This is there already.",
      detail: "Somebody may have done it at the same moment. Look at it as it is now.",
      more: { code: "conflict" },
    });
  if (state === "23503")
    return problem({
      status: 422,
      title: "Something that this names is not there any more.",
      detail: "Look at it as it is now, then try again.",
      more: { code: "invalid" },
    });
  // Text that is no valid UTF-8 for the database, numbers out of its range, ids of the wrong form.
  if (state?.startsWith("22"))
    return problem({
      status: 422,
      title: "A value in this request cannot be stored.",
      detail: "Check the characters and numbers in it.",
      more: { code: "invalid" },
    });
  log.error(traced(error), "request failed");
  return problem({
    status: 500,
    title: "Something went wrong here.",
    detail: "Nothing was stored. Try again; if it stays, tell your administrator.",
    more: { code: "failed" },
  });
}

class BodyProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly help: string,
  ) {
    super(message);
  }
}

const LARGEST_JSON = 256 * 1024;

/** Reads a body up to a number of bytes; more is refused without reading on. */
export async function readBytes(request: Request, most: number): Promise<Buffer> {
  const tooLarge = () =>
    new BodyProblem(
      413,
      "This is too large.",
      `At most ${Math.floor(most / 1024)} kB are taken here.`,
    );
  if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge();
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > most) throw tooLarge();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/**
 * A JSON body that fits a schema. Null characters, which no text column can hold, are taken out.
 */
export async function readJson<T>(
  request: Request,
  schema: z.ZodType<T>,
  most = LARGEST_JSON,
): Promise<T> {
  if (!request.headers.get("content-type")?.includes("application/json"))
    throw new BodyProblem(
      415,
      "Only JSON is understood here.",
      "Send it with the content type application/json.",
    );
  const text = (await readBytes(request, most)).toString("utf8");
  let value: unknown;
  try {
    value = JSON.parse(text, (_key, v) => (typeof v === "string" ? v.replaceAll("\u0000", "") : v));
  } catch {
    throw new BodyProblem(400, "This is no JSON.", "Check the text that was sent.");
  }
  return schema.parse(value);
}

/** Requests that change something must come from our own pages. */
function fromElsewhere(request: Request): boolean {
  const origin = request.headers.get("origin");
  if (request.method === "GET" || !origin) return false;
  try {
    return new URL(origin).host !== request.headers.get("host");
  } catch {
    return true;
  }
}

/**
 * So many requests are worked on at once, so that nobody takes all connections to the database;
 * many people may share an address.
 */
const MOST_AT_ONCE = { person: 8, address: 60 };

type Context<P> = { params: Promise<P> };

/** A route handler for anyone. */
export function openRoute<P>(handle: (request: Request, params: P) => Promise<Response>) {
  const answer = async (request: Request, context: Context<P>): Promise<Response> => {
    try {
      if (fromElsewhere(request))
        return problem({
          status: 403,
          title: "This request came from another site.",
          detail: "Use the product's own pages.",
        });
      return await inTurn(
        `address ${request.headers.get("x-client-address")}`,
        MOST_AT_ONCE.address,
        async () => handle(request, await context.params),
      );
    } catch (error) {
      // What was found to be no such request is answered where it was found.
      return error instanceof Response ? error : problemOf(error);
    }
  };
  return async (request: Request, context: Context<P>): Promise<Response> =>
    withToldStatus(request, await answer(request, context));
}

/** A route handler for people who are signed in. */
export function signedInRoute<P>(
  handle: (viewer: Viewer, request: Request, params: P) => Promise<Response>,
) {
  return openRoute<P>(async (request, params) => {
    const viewer = await viewerOf(request.headers);
    if (!viewer)
      return problem({
        status: 401,
        title: "You are not signed in.",
        detail: "Sign in again; what you typed is still on the page.",
        more: { code: "signed out" },
      });
    return inTurn(`person ${viewer.personId}`, MOST_AT_ONCE.person, () =>
      handle(viewer, request, params),
    );
  });
}

export const json = (value: unknown, status = 200) =>
  Response.json(value, { status, headers: { "Cache-Control": "no-store" } });
