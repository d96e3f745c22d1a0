import { signedInRoute } from "@/app/problem";
import { exportQuery, exportWorkflow } from "@/server/workflow/export";

export const GET = signedInRoute<{ key: string }>(async (viewer, request, { key }) => {
  const { name, mediaType, text } = await exportWorkflow(
    viewer,
    key,
    exportQuery.parse(Object.fromEntries(new URL(request.url).searchParams)),
  );
  return new Response(text, {
    headers: {
      "Content-Type": `${mediaType}; charset=utf-8`,
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "no-store",
    },
  });
});
