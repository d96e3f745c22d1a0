import type { IncomingMessage } from "node:http";
import { LARGEST_FORM, readText, type Answer } from "./answer";
import { isSignedWith } from "./signature";

/** A request of the product, as it is sent. */
export interface Asked<Said> {
  id: unknown;
  type: string;
  /** The repository that it is about. */
  repository: string;
  said: Partial<Said> & { by?: { name: string; mail: string } };
}

export const plain = (status: number, body: string): Answer => ({ status, body, plain: true });

/**
 * Reads a request of the product that is signed with the secret of a source that is told of its repository.
 * @returns the request, or what is answered where it is none
 */
export async function readAsked<Said>(
  request: IncomingMessage,
  targets: readonly { repository: string; secret: string }[],
): Promise<Asked<Said> | { refused: Answer }> {
  const body = await readText(request, LARGEST_FORM);
  if (body === null) return { refused: plain(413, "That is too large.") };
  let sent: { id?: unknown; type?: unknown; data?: { customData?: Asked<Said>["said"] } };
  try {
    sent = JSON.parse(body) as typeof sent;
  } catch {
    return { refused: plain(400, "This is no request.") };
  }
  const said = sent.data?.customData ?? ({} as Asked<Said>["said"]);
  const { repository = "" } = said as { repository?: string };
  const known = targets.filter((one) => one.repository === repository);
  if (!known.some(({ secret }) => isSignedWith(secret, request.headers, body)))
    return { refused: plain(401, "Nobody known signed this.") };
  return { id: sent.id, type: String(sent.type), repository, said };
}
