import { z } from "zod";

/**
 * What is asked and answered at one address: pages, routes, tests and the public interface are made
 * from it, so that none of them can mean another thing than the others.
 */
export interface Contract {
  method: "GET" | "POST" | "DELETE";
  /** Parts that begin with a colon are given by whoever asks, e.g. `/api/items/:key`. */
  path: `/api/${string}`;
  /** What stands behind the question mark. */
  query?: z.ZodType;
  body?: z.ZodType;
  answer: z.ZodType;
  /** The name under which a page keeps the answer. */
  kept?: string;
  /** The largest body, in bytes, where it may be larger than usual. */
  largest?: number;
  /** 200 unless something else is said. */
  status?: 201;
}

/** A contract with the types of all its parts. */
export const contract = <const C extends Contract>(of: C): C => of;

/**
 * An answer that is made by the server from its own types and compiled into the page with them; it
 * is not parsed again.
 */
export const answered = <T>(): z.ZodType<T, T> => z.custom<T>();

/** The answer where there is nothing to say but that it was done. */
export const DONE = z.object({ done: z.literal(true) });

type Named<Path> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Named<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? Name
    : never;

/** The parts of an address that whoever asks has to give. */
export type ParamsOf<C extends Contract> = { [N in Named<C["path"]>]: string };
export type AnswerOf<C extends Contract> = z.output<C["answer"]>;

type Given<Name extends string, T> = [T] extends [never]
  ? object
  : undefined extends T
    ? { [N in Name]?: T }
    : { [N in Name]: T };
type InputOf<T> = T extends z.ZodType ? z.input<T> : never;
type OutputOf<T> = T extends z.ZodType ? z.output<T> : never;

/** What whoever asks has to say. */
export type AskedOf<C extends Contract> = Given<
  "params",
  [Named<C["path"]>] extends [never] ? never : ParamsOf<C>
> &
  Given<"query", InputOf<C["query"]>> &
  Given<"body", InputOf<C["body"]>>;

/** What the server works with, once it was parsed. */
export interface ParsedOf<C extends Contract> {
  params: ParamsOf<C>;
  query: OutputOf<C["query"]>;
  body: OutputOf<C["body"]>;
}

interface Parts {
  params?: Record<string, string>;
  query?: unknown;
}

/** Parts that mean "this folder" and "the one above" in every address, even when escaped (WHATWG URL, 4.4). */
const FOLDERS = new Set([".", ".."]);

/** The address that a contract stands for. @throws Error when a part of it is not given, or is one no address can have */
export function addressOf<C extends Contract>(of: C, asked: Omit<AskedOf<C>, "body">): string {
  const { params = {}, query } = asked as Parts;
  const path = of.path.replace(/:(\w+)/g, (_part, name: string) => {
    if (params[name] === undefined) throw new Error(`${of.path} needs ${name}`);
    if (FOLDERS.has(params[name])) throw new Error(`${of.path} cannot have "${params[name]}"`);
    return encodeURIComponent(params[name]);
  });
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries(query ?? {}))
    if (value !== undefined && value !== null && value !== "") search.set(name, String(value));
  return search.size > 0 ? `${path}?${search}` : path;
}

/** The parts of an address, in their order, without what stands behind the question mark. */
export const partsOf = (of: Contract, params: Record<string, string> = {}): string[] =>
  [...of.path.matchAll(/:(\w+)/g)].map(([, name]) => params[name]);
