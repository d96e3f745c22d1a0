import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { editShipSettings } from "@/server/ship/settings";

export const POST = signedIn(shipContract.settings, (viewer, { params, body }) =>
  editShipSettings(viewer, params.key, body),
);
