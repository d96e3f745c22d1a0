import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { requesterContract } from "@/core/intake/requester-contract";
import { moveAsRequester, readPrivatePage } from "@/server/intake/private-page";

export const POST = forAnyone(
  requesterContract.move,
  async ({ params, body }) => {
    await moveAsRequester(params.token, body);
    return readPrivatePage(params.token);
  },
  limited,
);
