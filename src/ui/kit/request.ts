import type { Ask } from "@/core/workflow/refusal";

/** A refused or failed request, in the words of the server's problem details. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly sentence: string,
    readonly help: string,
    readonly code: string,
    readonly asks: Ask[],
    readonly conflict: { field: string; current: unknown }[],
    readonly errors: { field: string; message: string }[],
    /** For a conflict: the version that the current values are from. */
    readonly version?: number,
  ) {
    super(sentence);
  }
}

const PAUSES_MS = [300, 900, 2_000];

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Asks the server. A request that did not get through, or came while the database was away, is sent
 * again a few times; commands carry a key of their own, so sending one twice does nothing twice.
 * @throws Problem for every other answer than a good one
 */
export async function request<T>(
  path: string,
  options: { method?: string; body?: unknown; form?: FormData; retry?: boolean } = {},
): Promise<T> {
  const { body, form, retry = true } = options;
  const method = options.method ?? (body === undefined && !form ? "GET" : "POST");
  for (let attempt = 0; ; attempt++) {
    let response: Response;
    try {
      response = await fetch(path, {
        method,
        headers: body === undefined ? undefined : { "Content-Type": "application/json" },
        body: form ?? (body === undefined ? undefined : JSON.stringify(body)),
      });
    } catch {
      if (retry && attempt < PAUSES_MS.length) {
        await wait(PAUSES_MS[attempt]);
        continue;
      }
      throw new Problem(
        0,
        "The server cannot be reached.",
        "Nothing was lost: what you did is still here. Try again in a moment.",
        "offline",
        [],
        [],
        [],
      );
    }
    if (response.ok) return (await response.json()) as T;
    const answer = (await response.json().catch(() => ({}))) as Partial<
      Record<"title" | "detail" | "code", string>
    > &
      Partial<Pick<Problem, "asks" | "conflict" | "errors" | "version">>;
    if (response.status === 503 && retry && attempt < PAUSES_MS.length) {
      await wait(PAUSES_MS[attempt]);
      continue;
    }
    throw new Problem(
      response.status,
      answer.title ?? "Something went wrong.",
      answer.detail ?? "Nothing was stored. Try again.",
      answer.code ?? "failed",
      answer.asks ?? [],
      answer.conflict ?? [],
      answer.errors ?? [],
      answer.version,
    );
  }
}

export function problemOf(error: unknown): Problem {
  if (error instanceof Problem) return error;
  return new Problem(
    0,
    "Something went wrong on this page.",
    "Nothing was stored. Reload the page and try again.",
    "failed",
    [],
    [],
    [],
  );
}
