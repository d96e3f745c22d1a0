import type { IncomingMessage } from "node:http";
import type { Answer } from "../answer";
import { plain, readAsked } from "../asked";
import { HostRefusal, type CodeHost } from "./host";
import type { HostMemory } from "./state";

const TAG = /^dev\.cdeventsx\.zigzag-request\.tag\./;

/** A request of the product, signed with the secret of its source: tag a commit. */
export async function takeRequest(
  request: IncomingMessage,
  { memory, host }: { memory: HostMemory; host: CodeHost },
): Promise<Answer> {
  const asked = await readAsked<{ tag: string; commit: string }>(request, memory.state.targets);
  if ("refused" in asked) return asked.refused;
  if (!TAG.test(asked.type)) return plain(400, "This is no request that is known here.");
  const { tag = "", commit = "", by } = asked.said;
  try {
    const who = { name: String(by?.name ?? ""), mail: String(by?.mail ?? "") };
    await host.tag(asked.repository, { tag: String(tag), commit: String(commit), by: who });
    return plain(202, "taken");
  } catch (error) {
    if (!(error instanceof HostRefusal)) throw error;
    return plain(409, error.message);
  }
}
