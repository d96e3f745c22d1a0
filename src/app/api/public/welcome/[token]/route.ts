import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { peopleContract } from "@/core/people/contract";
import { setPasswordByLink } from "@/server/people/accounts";

export const POST = forAnyone(
  peopleContract.welcome,
  ({ params, body }) => setPasswordByLink(params.token, body.password),
  limited,
);
