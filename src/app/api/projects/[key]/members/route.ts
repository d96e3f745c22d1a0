import { json, readJson, signedInRoute } from "@/app/problem";
import { memberBody, readMembers, setMember } from "@/server/people/members";

export const GET = signedInRoute<{ key: string }>(async (viewer, _request, { key }) =>
  json(await readMembers(viewer, key)),
);

export const POST = signedInRoute<{ key: string }>(async (viewer, request, { key }) =>
  json(await setMember(viewer, key, await readJson(request, memberBody))),
);
