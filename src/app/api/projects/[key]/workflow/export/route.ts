import { signedIn } from "@/app/answer";
import { workflowContract } from "@/core/workflow/contract";
import { exportWorkflow } from "@/server/workflow/export";

export const GET = signedIn(workflowContract.file, async (viewer, { params, query }) => {
  const { name, mediaType, text } = await exportWorkflow(viewer, params.key, query);
  return new Response(text, {
    headers: {
      "Content-Type": `${mediaType}; charset=utf-8`,
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "no-store",
    },
  });
});
