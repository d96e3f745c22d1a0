import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { createItem } from "@/server/item/create";

export const POST = signedIn(itemContract.make, (viewer, { body }) => createItem(viewer, body));
