import type { z } from "zod";
import type { AnswerOf, Contract, DONE, ParsedOf } from "@/core/contract/contract";
import type { Viewer } from "@/server/people/viewer";
import { json, openRoute, readJson, signedInRoute } from "./problem";

/** What a use case gives for a contract: nothing where there is nothing to say. */
type Given<C extends Contract> = AnswerOf<C> extends z.output<typeof DONE> ? void : AnswerOf<C>;

/** What is asked, by the contract. @throws ZodError, or what `readJson` throws */
async function parsed<C extends Contract>(
  of: C,
  request: Request,
  params: Record<string, string>,
): Promise<ParsedOf<C>> {
  const { searchParams } = new URL(request.url);
  const query = of.query?.parse(Object.fromEntries(searchParams));
  const body = of.body && (await readJson(request, of.body, of.largest));
  return { params, query, body } as ParsedOf<C>;
}

const answerOf = (of: Contract, given: unknown): Response =>
  given instanceof Response ? given : json(given === undefined ? { done: true } : given, of.status);

/** The handler of a route for people who are signed in, by its contract. */
export const signedIn = <C extends Contract>(
  of: C,
  handle: (viewer: Viewer, asked: ParsedOf<C>, request: Request) => Promise<Given<C> | Response>,
) =>
  signedInRoute<Record<string, string>>(async (viewer, request, params) =>
    answerOf(of, await handle(viewer, await parsed(of, request, params), request)),
  );

/**
 * The handler of a route for anyone, by its contract.
 * @param mayAsk what refuses somebody who asks too often, before anything of it is read
 */
export const forAnyone = <C extends Contract>(
  of: C,
  handle: (asked: ParsedOf<C>, request: Request) => Promise<Given<C> | Response>,
  mayAsk: (request: Request) => Promise<Response | null>,
) =>
  openRoute<Record<string, string>>(async (request, params) => {
    const refused = await mayAsk(request);
    return refused ?? answerOf(of, await handle(await parsed(of, request, params), request));
  });
