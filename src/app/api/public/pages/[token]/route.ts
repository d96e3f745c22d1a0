import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { requesterContract } from "@/core/intake/requester-contract";
import { readPrivatePage, sayMore } from "@/server/intake/private-page";

export const GET = forAnyone(
  requesterContract.page,
  ({ params }) => readPrivatePage(params.token),
  limited,
);

export const POST = forAnyone(
  requesterContract.answer,
  async ({ params, body }) => {
    await sayMore(params.token, body.answer);
    return readPrivatePage(params.token);
  },
  limited,
);
