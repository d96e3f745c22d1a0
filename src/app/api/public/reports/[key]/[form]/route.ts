import { json, openRoute, problem, problemOf } from "@/app/problem";
import { readForm } from "@/app/read-form";
import { plainPage, wantsPage } from "@/app/plain-page";
import { FormFaults, submitForm } from "@/server/intake/forms";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 12;
const PER_FORM = 240;
const MINUTE_MS = 60_000;

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
  const { raw, files } = await readForm(request);
  const joins = raw.joins?.[0] || null;
  return submitForm({ projectKey: key, name: form, raw, sent: files, joins });
}
