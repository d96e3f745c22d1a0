import { isShowable } from "@/server/files/kind";
import type { ServedFile } from "@/server/intake/files";

/**
 * A file from outside: pictures may be shown in our own pages, everything else is only saved.
 * Nothing of it can run: its kind is what its bytes say, browsers do not guess, and a policy for
 * these addresses forbids everything (next.config.ts).
 */
export function fileResponse({ name, mediaType, sha256, content }: ServedFile): Response {
  const shown = isShowable(mediaType, content);
  const ascii = name.replace(/[^\x20-\x7e]|["\\]/g, "_");
  return new Response(new Uint8Array(content), {
    headers: {
      "Content-Type": shown ? mediaType : "application/octet-stream",
      "Content-Disposition": `${shown ? "inline" : "attachment"}; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(name)}`,
      "X-Content-Type-Options": "nosniff",
      "Cache-Control": "private, max-age=3600",
      ETag: `"${sha256}"`,
    },
  });
}
