import type { IncomingMessage, ServerResponse } from "node:http";
import { Readable } from "node:stream";

/** What a request comes to. */
export interface Answer {
  status: number;
  body: string;
  /** Words alone, for other programs. */
  plain?: boolean;
  location?: string;
  cookie?: string;
}

/** Sends an answer, unless something was sent already: pages need no script and no frame. */
export function send(
  response: ServerResponse,
  { status, body, plain, location, cookie }: Answer,
): void {
  if (response.headersSent) return void response.end();
  response.writeHead(status, {
    "Content-Type": `text/${plain ? "plain" : "html"}; charset=utf-8`,
    "Content-Security-Policy":
      "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    ...(location ? { Location: location } : {}),
    ...(cookie ? { "Set-Cookie": cookie } : {}),
  });
  response.end(body);
}

/** A form is no larger. */
export const LARGEST_FORM = 64 * 1024;

/** Why nobody may do what a form asks for; null where its own pages asked, for somebody who is in. */
export function formRefused({ headers }: IncomingMessage, isIn: boolean): string | null {
  // Only its own pages may make a stand-in do something.
  if (headers.origin && headers.origin !== `http://${headers.host}`)
    return "This was asked from another site.";
  if (!isIn) return "Come in by the product first.";
  return Number(headers["content-length"] ?? 0) <= LARGEST_FORM ? null : "That is too large.";
}

/** Reads the fields of a form. @param most of one field */
export async function readForm(
  request: IncomingMessage,
  most: number,
): Promise<(name: string) => string> {
  const form = await new Response(Readable.toWeb(request) as ReadableStream, {
    headers: { "content-type": request.headers["content-type"] ?? "" },
  }).formData();
  return (name) => String(form.get(name) ?? "").slice(0, most);
}

/** The text of a request; null where it is larger than it may be. */
export async function readText(request: IncomingMessage, most: number): Promise<string | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > most) return null;
    parts.push(part);
  }
  return Buffer.concat(parts).toString("utf8");
}
