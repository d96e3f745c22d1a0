/** A stored picture as a response that can be looked at and do nothing else. */
export function pictureResponse({ mediaType, content }: { mediaType: string; content: Buffer }): Response {
  return new Response(new Uint8Array(content), {
    headers: {
      "Content-Type": mediaType,
      "Content-Disposition": "inline",
      "Content-Security-Policy": "default-src 'none'; sandbox",
      "Cache-Control": "private, max-age=3600",
    },
  });
}
