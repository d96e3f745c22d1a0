import { signedIn } from "@/app/answer";
import { boardContract } from "@/core/board/contract";
import { editColumn } from "@/server/board/edit";

export const POST = signedIn(boardContract.limit, (viewer, { body }) => editColumn(viewer, body));
