import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { problem } from "@/app/problem";
import { requesterContract } from "@/core/intake/requester-contract";
import { followReport } from "@/server/intake/private-page";
import { countUse } from "@/server/rate-limit";

const PER_PAGE = 10;
const DAY_MS = 86_400_000;

export const POST = forAnyone(
  requesterContract.follow,
  async ({ params: { token }, body }) => {
    const use = await countUse({
      key: `follow ${token.slice(0, 64)}`,
      limit: PER_PAGE,
      windowMs: DAY_MS,
    });
    if (!use.allowed)
      return problem({
        status: 429,
        title: "Many people were added here today.",
        detail: "Send a report of your own instead.",
        more: {},
        headers: { "Retry-After": String(use.retryAfter) },
      });
    return followReport(token, body.mail);
  },
  limited,
);
