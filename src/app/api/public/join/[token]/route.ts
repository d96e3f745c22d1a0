import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { peopleContract } from "@/core/people/contract";
import { joinNew } from "@/server/people/join";

export const POST = forAnyone(
  peopleContract.joinNew,
  ({ params, body }) => joinNew(params.token, body),
  limited,
);
