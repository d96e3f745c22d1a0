import { signedIn } from "@/app/answer";
import { itemContract } from "@/core/item/contract";
import { commandItem } from "@/server/item/command";

export const POST = signedIn(itemContract.command, (viewer, { body }) => commandItem(viewer, body));
