import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { publicAcceptanceContract } from "@/core/ship/acceptance/public-contract";
import { readPublicShowing, sayOutside } from "@/server/ship/acceptance/private-showing";

export const GET = forAnyone(
  publicAcceptanceContract.page,
  ({ params }) => readPublicShowing(params.token),
  limited,
);

export const POST = forAnyone(
  publicAcceptanceContract.say,
  ({ params, body }) => sayOutside(params.token, body),
  limited,
);
