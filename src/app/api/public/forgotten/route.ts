import { forAnyone } from "@/app/answer";
import { limited } from "@/app/page-limit";
import { peopleContract } from "@/core/people/contract";
import { sendNewPassword } from "@/server/people/forgotten";

export const POST = forAnyone(
  peopleContract.forgotten,
  ({ body }) => sendNewPassword(body.email),
  limited,
);
