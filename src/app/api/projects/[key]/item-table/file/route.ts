import { signedIn } from "@/app/answer";
import { itemTableContract } from "@/core/item/csv/contract";
import { writeItemTable } from "@/server/item/csv/file";

export const GET = signedIn(itemTableContract.file, async (viewer, { params }) => {
  const { name, text } = await writeItemTable(viewer, params.key);
  // With the mark by which spreadsheets know its letters.
  return new Response(`\ufeff${text}`, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "private, no-store",
    },
  });
});
