import { json, openRoute, problem, problemOf, readBytes } from "@/app/problem";
import { plainPage, wantsPage } from "@/app/plain-page";
import { LARGEST_FILE, MOST_FILES, type SentFile } from "@/server/intake/file";
import { FormFaults, submitForm } from "@/server/intake/forms";
import { countUse } from "@/server/rate-limit";

/** A form with all its files and the longest texts fits; anything beyond is not read. */
const LARGEST_FORM = 2 * LARGEST_FILE + 512 * 1024;
const PER_ADDRESS = 12;
const PER_FORM = 240;
const MINUTE_MS = 60_000;
const MOST_PARTS = 400;

/**
 * Takes a report from somebody without an account, by a form. A browser without JavaScript gets
 * pages for answers, everything else JSON.
 */
export const POST = openRoute<{ key: string; form: string }>(async (request, { key, form }) => {
  const page = wantsPage(request);
  try {
    const { reference, token } = await take(
      request,
      key.toUpperCase().slice(0, 20),
      form.slice(0, 60),
    );
    return page
      ? new Response(null, { status: 303, headers: { Location: `/r/${token}` } })
      : json({ reference, token }, 201);
  } catch (error) {
    if (error instanceof FormFaults)
      return page
        ? plainPage(
            422,
            error.message,
            error.errors.map((e) => e.message),
          )
        : problem({
            status: 422,
            title: error.message,
            detail: error.errors[0].message,
            more: {
              code: "invalid",
              errors: error.errors,
            },
          });
    if (error instanceof Response) return error;
    const answer = problemOf(error);
    if (!page) return answer;
    const { title, detail } = (await answer.json()) as { title: string; detail: string };
    return plainPage(answer.status, title, [detail]);
  }
});

async function take(
  request: Request,
  key: string,
  form: string,
): Promise<{ reference: string; token: string }> {
  const address = request.headers.get("x-client-address") ?? "unknown";
  const [byAddress, byForm] = [
    await countUse({ key: `report ${address}`, limit: PER_ADDRESS, windowMs: MINUTE_MS }),
    await countUse({ key: `form ${key} ${form}`, limit: PER_FORM, windowMs: MINUTE_MS }),
  ];
  if (!byAddress.allowed || !byForm.allowed) {
    const wait = Math.max(
      byAddress.allowed ? 0 : byAddress.retryAfter,
      byForm.allowed ? 0 : byForm.retryAfter,
    );
    throw problem({
      status: 429,
      title: "Too many reports came at once.",
      detail: `What you wrote is still here. Send it again in ${wait} seconds.`,
      more: { code: "too many" },
      headers: { "Retry-After": String(wait) },
    });
  }
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
  const joins = raw.joins?.[0] || null;
  return submitForm({ projectKey: key, name: form, raw, sent: files, joins });
}
