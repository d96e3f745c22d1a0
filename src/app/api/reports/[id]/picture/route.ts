import { z } from "zod";
import { pictureResponse } from "@/app/picture-response";
import { signedInRoute } from "@/app/problem";
import { reportPictureFor } from "@/server/intake/desk";

export const GET = signedInRoute<{ id: string }>(async (viewer, _request, { id }) => pictureResponse(await reportPictureFor(viewer, z.uuid().parse(id))));
