import { fileResponse } from "@/app/file-response";
import { limited } from "@/app/page-limit";
import { openRoute } from "@/app/problem";
import { privateFile } from "@/server/intake/private-page";

export const GET = openRoute<{ token: string; file: string }>(
  async (request, { token, file }) =>
    (await limited(request)) ?? fileResponse(await privateFile(token, file)),
);
