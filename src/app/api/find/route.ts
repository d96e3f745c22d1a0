import { signedIn } from "@/app/answer";
import { findContract } from "@/core/find/contract";
import { findAll } from "@/server/find/find";

export const GET = signedIn(findContract.find, (viewer, { query }) => findAll(viewer, query));
