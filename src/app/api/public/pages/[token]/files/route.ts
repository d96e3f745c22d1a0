import { limited } from "@/app/page-limit";
import { json, openRoute } from "@/app/problem";
import { readForm } from "@/app/read-form";
import { addFiles, readPrivatePage } from "@/server/intake/private-page";

/** Files that a requester adds to their report. */
export const POST = openRoute<{ token: string }>(async (request, { token }) => {
  const refused = await limited(request);
  if (refused) return refused;
  const { files } = await readForm(request);
  await addFiles(token, files);
  return json(await readPrivatePage(token));
});
