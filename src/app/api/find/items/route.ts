import { signedIn } from "@/app/answer";
import { findContract } from "@/core/find/contract";
import { findItems } from "@/server/find/items";

export const GET = signedIn(findContract.items, (viewer, { query }) => findItems(viewer, query));
