import { fileResponse } from "@/app/file-response";
import { limited } from "@/app/page-limit";
import { openRoute } from "@/app/problem";
import { publicPicture } from "@/server/ship/acceptance/private-showing";

export const GET = openRoute<{ token: string; picture: string }>(
  async (request, { token, picture }) =>
    (await limited(request)) ?? fileResponse(await publicPicture(token, picture)),
);
