import {
  addressOf,
  partsOf,
  type AnswerOf,
  type AskedOf,
  type Contract,
} from "@/core/contract/contract";
import { TOLD_STATUS, WANTS_STATUS_TOLD } from "@/core/contract/told-status";
import type { Ask } from "@/core/workflow/refusal";

interface ProblemDetails {
  /** Of the answer; 0 when there was none. */
  status: number;
  sentence: string;
  help: string;
  code: string;
  /** What would make it possible. */
  asks?: Ask[];
  conflict?: { field: string; current: unknown }[];
  errors?: { field: string; message: string }[];
  /** For a conflict: the version that the current values are from. */
  version?: number;
}

/** A refused or failed request, in the words of the server's problem details. */
export class Problem extends Error {
  readonly status: number;
  readonly sentence: string;
  readonly help: string;
  readonly code: string;
  readonly asks: NonNullable<ProblemDetails["asks"]>;
  readonly conflict: NonNullable<ProblemDetails["conflict"]>;
  readonly errors: NonNullable<ProblemDetails["errors"]>;
  readonly version?: number;
  /** Whether the person has read it already, where it was asked about. */
  wasRead = false;

  constructor({ status, sentence, help, code, ...details }: ProblemDetails) {
    super(sentence);
    this.status = status;
    this.sentence = sentence;
    this.help = help;
    this.code = code;
    this.asks = details.asks ?? [];
    this.conflict = details.conflict ?? [];
    this.errors = details.errors ?? [];
    this.version = details.version;
  }
}

/** What was wrong, for a form: what its fields say, else the sentence and what to do. */
export const problemWords = ({ errors, sentence, help }: Problem): string =>
  errors.map(({ message }) => message).join(" ") || `${sentence} ${help}`;

/** How the server tells a problem (RFC 9457). */
type ToldProblem = Partial<Record<"title" | "detail" | "code", string>> &
  Partial<Pick<Problem, "asks" | "conflict" | "errors" | "version">>;

/** The problem that an answer tells. */
export const problemTold = (
  status: number,
  { title, detail, code, ...details }: ToldProblem,
): Problem =>
  new Problem({
    ...details,
    status,
    sentence: title ?? "Something went wrong.",
    help: detail ?? "Nothing was stored. Try again.",
    code: code ?? "failed",
  });

/** No answer came. */
export const outOfReach = (): Problem =>
  new Problem({
    status: 0,
    sentence: "The server cannot be reached.",
    help: "Nothing was lost: what you did is still here. Try again in a moment.",
    code: "offline",
  });

const PAUSES_MS = [300, 900, 2_000];

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** How a request is sent, beside what is asked. */
interface Sending {
  /** Whether it is sent again when it did not get through; true unless said. */
  retry?: boolean;
  /** In place of a body: a form with files. */
  form?: FormData;
  /** In place of a body: a file as it is. */
  bytes?: Blob;
  /** Whether it is sent to its end also when the page is left. */
  outlives?: boolean;
}

/**
 * Asks the server by a contract. A request that did not get through, or came while the database was
 * away, is sent again a few times; commands carry a key of their own, so sending one twice does
 * nothing twice.
 * @throws Problem for every other answer than a good one
 */
export async function ask<C extends Contract>(
  of: C,
  asked: AskedOf<C>,
  { retry = true, form, bytes, outlives }: Sending = {},
): Promise<AnswerOf<C>> {
  const { method } = of;
  const { body } = asked as { body?: unknown };
  for (let attempt = 0; ; attempt++) {
    let response: Response;
    try {
      response = await fetch(addressOf(of, asked), {
        method,
        keepalive: outlives,
        headers: {
          [WANTS_STATUS_TOLD]: "yes",
          ...(body === undefined ? undefined : { "Content-Type": "application/json" }),
          ...(bytes && { "Content-Type": "application/octet-stream" }),
        },
        body: bytes ?? form ?? (body === undefined ? undefined : JSON.stringify(body)),
      });
    } catch {
      if (retry && attempt < PAUSES_MS.length) {
        await wait(PAUSES_MS[attempt]);
        continue;
      }
      throw outOfReach();
    }
    const status = Number(response.headers.get(TOLD_STATUS) ?? response.status);
    if (status < 400) return (await response.json()) as AnswerOf<C>;
    const answer = (await response.json().catch(() => ({}))) as ToldProblem;
    if (status === 503 && retry && attempt < PAUSES_MS.length) {
      await wait(PAUSES_MS[attempt]);
      continue;
    }
    throw problemTold(status, answer);
  }
}

type Kept<C extends Contract> = C & { kept: string };

/**
 * The key under which a page keeps an answer. With fewer of its parts it stands for all answers
 * that begin so.
 */
export const keyOf = (of: Kept<Contract>, asked: { params?: Record<string, string> } = {}) =>
  [of.kept, ...partsOf(of, asked.params).filter((part) => part !== undefined)] as string[];

/** How a page asks for an answer and keeps it. */
export const queryOf = <C extends Contract>(
  of: Kept<C>,
  asked: AskedOf<C>,
  sending: Sending = {},
) => {
  const { params, query, body } = asked as Record<string, Record<string, string>>;
  return {
    queryKey: [...keyOf(of, { params }), ...[query, body].filter(Boolean)] as unknown[],
    queryFn: () => ask<C>(of, asked, sending),
  };
};

export function problemOf(error: unknown): Problem {
  if (error instanceof Problem) return error;
  return new Problem({
    status: 0,
    sentence: "Something went wrong on this page.",
    help: "Nothing was stored. Reload the page and try again.",
    code: "failed",
  });
}

/** The words of a file. @throws Problem */
export async function readText<C extends Contract>(of: C, asked: AskedOf<C>): Promise<string> {
  const response = await fetch(addressOf(of, asked)).catch(() => {
    throw outOfReach();
  });
  if (!response.ok) throw problemTold(response.status, {});
  return response.text();
}
