import { signedIn } from "@/app/answer";
import { pinsContract } from "@/core/item/pins/contract";
import { changePins, readPins } from "@/server/item/pins";

export const GET = signedIn(pinsContract.read, (viewer) => readPins(viewer));

export const POST = signedIn(pinsContract.change, (viewer, { body }) => changePins(viewer, body));
