import type { IncomingMessage } from "node:http";
import { LARGEST_FORM, readText, type Answer } from "../answer";
import { isSignedWith } from "../signature";
import { HostRefusal, type CodeHost } from "./host";
import type { HostMemory } from "./state";

interface Asked {
  type?: unknown;
  data?: {
    customData?: {
      repository?: string;
      tag?: string;
      commit?: string;
      by?: { name: string; mail: string };
    };
  };
}

const plain = (status: number, body: string): Answer => ({ status, body, plain: true });

const TAG = /^dev\.cdeventsx\.zigzag-request\.tag\./;

/** A request of the product, signed with the secret of its source: tag a commit. */
export async function takeRequest(
  request: IncomingMessage,
  { memory, host }: { memory: HostMemory; host: CodeHost },
): Promise<Answer> {
  const body = await readText(request, LARGEST_FORM);
  if (body === null) return plain(413, "That is too large.");
  let asked: Asked;
  try {
    asked = JSON.parse(body) as Asked;
  } catch {
    return plain(400, "This is no request.");
  }
  const { repository = "", tag = "", commit = "", by } = asked.data?.customData ?? {};
  const known = memory.state.targets.filter((one) => one.repository === repository);
  if (!known.some(({ secret }) => isSignedWith(secret, request.headers, body)))
    return plain(401, "Nobody known signed this.");
  if (!TAG.test(String(asked.type))) return plain(400, "This is no request that is known here.");
  try {
    const who = { name: String(by?.name ?? ""), mail: String(by?.mail ?? "") };
    await host.tag(repository, { tag: String(tag), commit: String(commit), by: who });
    return plain(202, "taken");
  } catch (error) {
    if (!(error instanceof HostRefusal)) throw error;
    return plain(409, error.message);
  }
}
