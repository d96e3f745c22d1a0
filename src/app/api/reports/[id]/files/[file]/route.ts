import { fileResponse } from "@/app/file-response";
import { signedInRoute } from "@/app/problem";
import { reportFileFor } from "@/server/intake/files";

export const GET = signedInRoute<{ id: string; file: string }>(
  async (viewer, _request, { id, file }) => fileResponse(await reportFileFor(viewer, id, file)),
);
