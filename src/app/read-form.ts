import { problem, readBytes } from "@/app/problem";
import { LARGEST_FILE, MOST_FILES } from "@/core/intake/file-limits";
import type { SentFile } from "@/server/intake/file";

/** A form with all its files and the longest texts fits; anything beyond is not read. */
const LARGEST_FORM = MOST_FILES * LARGEST_FILE + 512 * 1024;
const MOST_PARTS = 400;

/**
 * Reads a form with files from somebody without an account.
 * @throws Response where it is too large, or no such form
 */
export async function readForm(
  request: Request,
): Promise<{ raw: Record<string, string[]>; files: SentFile[] }> {
  const type = request.headers.get("content-type") ?? "";
  if (!type.startsWith("multipart/form-data"))
    throw problem({
      status: 415,
      title: "Only the report form is understood here.",
      detail: "Send it as multipart/form-data.",
    });
  const body = await readBytes(request, LARGEST_FORM);
  let sent: FormData;
  try {
    sent = await new Response(new Uint8Array(body), {
      headers: { "content-type": type },
    }).formData();
  } catch {
    throw problem({
      status: 400,
      title: "The form did not arrive whole.",
      detail: "Send it again.",
    });
  }
  const raw: Record<string, string[]> = Object.create(null);
  const files: SentFile[] = [];
  let parts = 0;
  for (const [name, value] of sent) {
    if (++parts > MOST_PARTS)
      throw problem({
        status: 413,
        title: "This form has too many parts.",
        detail: "Send it as the page does.",
      });
    if (typeof value === "string") (raw[name.slice(0, 60)] ??= []).push(value);
    // One more than is taken is kept, so that too many are refused and not cut.
    else if (value.size > 0 && files.length <= MOST_FILES)
      files.push({ name: value.name, content: Buffer.from(await value.arrayBuffer()) });
  }
  return { raw, files };
}
