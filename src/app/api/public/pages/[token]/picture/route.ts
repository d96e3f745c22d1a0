import { pictureResponse } from "@/app/picture-response";
import { openRoute } from "@/app/problem";
import { privatePicture } from "@/server/intake/private-page";

export const GET = openRoute<{ token: string }>(async (_request, { token }) => pictureResponse(await privatePicture(token)));
