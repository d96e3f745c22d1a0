import { TOLD_STATUS, WANTS_STATUS_TOLD } from "@/core/contract/told-status";

/** An answer as who asked wants it: that something was refused may be told in a header. */
export function withToldStatus(request: Request, answer: Response): Response {
  const refused = answer.status >= 400 && answer.status < 500;
  if (!refused || !request.headers.has(WANTS_STATUS_TOLD)) return answer;
  const headers = new Headers(answer.headers);
  headers.set(TOLD_STATUS, String(answer.status));
  return new Response(answer.body, { status: 200, headers });
}
