import { limited } from "@/app/page-limit";
import { json, openRoute, problem, readJson } from "@/app/problem";
import { followReport } from "@/server/intake/private-page";
import { followBody } from "@/server/intake/request";
import { countUse } from "@/server/rate-limit";

const PER_PAGE = 10;
const DAY_MS = 86_400_000;

/** Adds somebody else to whom it happened too. */
export const POST = openRoute<{ token: string }>(async (request, { token }) => {
  const refused = await limited(request);
  if (refused) return refused;
  const { mail } = await readJson(request, followBody);
  const use = await countUse(`follow ${token.slice(0, 64)}`, PER_PAGE, DAY_MS);
  if (!use.allowed)
    return problem(
      429,
      "Many people were added here today.",
      "Send a report of your own instead.",
      {},
      { "Retry-After": String(use.retryAfter) },
    );
  await followReport(token, mail);
  return json({ stored: true });
});
