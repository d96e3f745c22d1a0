import { json, readJson, signedInRoute } from "@/app/problem";
import { editColumn } from "@/server/board/edit";
import { columnEditBody } from "@/server/workflow/request";

/** Changes the limit of a column of one of the project's boards. */
export const POST = signedInRoute(async (viewer, request) => {
  await editColumn(viewer, await readJson(request, columnEditBody));
  return json({});
});
