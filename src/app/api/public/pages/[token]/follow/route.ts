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
    const use = await countUse(`follow ${token.slice(0, 64)}`, PER_PAGE, DAY_MS);
    if (!use.allowed)
      return problem(
        429,
        "Many people were added here today.",
        "Send a report of your own instead.",
        {},
        { "Retry-After": String(use.retryAfter) },
      );
    return followReport(token, body.mail);
  },
  limited,
);
