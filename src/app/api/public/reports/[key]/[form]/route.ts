import { json, openRoute, problem, problemOf } from "@/app/problem";
import { readForm } from "@/app/read-form";
import { plainPage, wantsPage } from "@/app/plain-page";
import { keepAttempt } from "@/server/intake/form-attempt";
import { FormFaults, submitForm } from "@/server/intake/forms";
import { countUse } from "@/server/rate-limit";

const PER_ADDRESS = 12;
const PER_FORM = 240;
const MINUTE_MS = 60_000;

/**
 * Takes a report from somebody without an account, by a form. A browser without JavaScript gets
 * pages for answers, everything else JSON.
 */
export const POST = openRoute<{ key: string; form: string }>(async (request, params) => {
  const page = wantsPage(request);
  const projectKey = params.key.toUpperCase().slice(0, 20);
  const name = params.form.slice(0, 60);
  let raw: Record<string, string[]> = {};
  try {
    await countTry(request, projectKey, name);
    const read = await readForm(request);
    raw = read.raw;
    const joins = raw.joins?.[0] || null;
    const { reference, token } = await submitForm({
      projectKey,
      name,
      raw,
      sent: read.files,
      joins,
    });
    return page ? goTo(`/r/${token}`) : json({ reference, token }, 201);
  } catch (error) {
    if (error instanceof FormFaults) {
      if (!page) return faultsAsJson(error);
      // Back to the form, filled in as it was sent, with each mistake at its field.
      const attempt = await keepAttempt(projectKey, name, { values: raw, errors: error.errors });
      const address = `/report/${encodeURIComponent(projectKey)}/${encodeURIComponent(name)}`;
      return goTo(`${address}?attempt=${attempt}`);
    }
    if (error instanceof Response) return error;
    const answer = problemOf(error);
    if (!page) return answer;
    const { title, detail } = (await answer.json()) as { title: string; detail: string };
    return plainPage(answer.status, title, [detail]);
  }
});

const goTo = (address: string) =>
  new Response(null, { status: 303, headers: { Location: address } });

const faultsAsJson = ({ message, errors }: FormFaults) =>
  problem({
    status: 422,
    title: message,
    detail: errors[0].message,
    more: { code: "invalid", errors },
  });

/** @throws Response where too many come at once */
async function countTry(request: Request, key: string, form: string): Promise<void> {
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
}
