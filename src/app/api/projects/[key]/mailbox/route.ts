import { json, readJson, signedInRoute } from "@/app/problem";
import { addressBody, editAddress, readMailbox } from "@/server/mail/addresses";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readMailbox(viewer, key)),
);

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  await editAddress(viewer, key, await readJson(request, addressBody));
  return json({ stored: true });
});
