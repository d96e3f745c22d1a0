import { json, openRoute, problem, readBytes } from "@/app/problem";
import { countUse } from "@/server/rate-limit";
import { LARGEST_PICTURE } from "@/server/intake/picture";
import { reportForm } from "@/server/intake/request";
import { submitReport } from "@/server/intake/submit";

/** A form with the largest picture and the longest texts fits; anything beyond is not read. */
const LARGEST_FORM = LARGEST_PICTURE + 128 * 1024;
const PER_ADDRESS = 12;
const MINUTE_MS = 60_000;

/** Takes a report from somebody without an account. */
export const POST = openRoute<{ key: string }>(async (request, { key }) => {
  const address = request.headers.get("x-client-address") ?? "unknown";
  const { allowed, retryAfter } = await countUse(`report ${address}`, PER_ADDRESS, MINUTE_MS);
  if (!allowed)
    return problem(429, "Too many reports came from your address.", `What you wrote is still here. Send it again in ${retryAfter} seconds.`, { code: "too many" }, { "Retry-After": String(retryAfter) });
  if (!request.headers.get("content-type")?.startsWith("multipart/form-data"))
    return problem(415, "Only the report form is understood here.", "Send it as multipart/form-data.");
  const body = await readBytes(request, LARGEST_FORM);
  let form: FormData;
  try {
    form = await new Response(new Uint8Array(body), { headers: { "content-type": request.headers.get("content-type")! } }).formData();
  } catch {
    return problem(400, "The form did not arrive whole.", "Send it again.");
  }
  const text = (name: string) => {
    const value = form.get(name);
    return typeof value === "string" ? value.replaceAll("\u0000", "") : undefined;
  };
  const fields = reportForm.parse({ title: text("title"), happened: text("happened"), reproduce: text("reproduce"), place: text("place"), mail: text("mail") });
  const file = form.get("picture");
  const picture = file instanceof Blob && file.size > 0 ? Buffer.from(await file.arrayBuffer()) : null;
  return json(await submitReport(key.toUpperCase(), fields, picture), 201);
});
