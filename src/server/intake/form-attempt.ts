import { and, eq, gte, lt } from "drizzle-orm";
import { HOUR } from "@/core/calendar/instant";
import type { FormAttempt, RawAnswers } from "@/core/intake/form";
import { database } from "@/db/connection";
import { formAttempt } from "@/db/schema";
import { publicForm } from "./forms";
import { newToken } from "../people/link-token";

/** So long what could not be taken can be mended. */
const KEPT_MS = HOUR;

/**
 * Keeps for a while what a browser without JavaScript sent and what was wrong with it, so that its
 * form comes back filled in.
 * @returns what opens it
 */
export async function keepAttempt(
  projectKey: string,
  name: string,
  { values, errors }: FormAttempt,
  now = Date.now(),
): Promise<string> {
  await forgetAttempts(now);
  const form = await publicForm(projectKey, name);
  const asked = form.definition.questions.map((q) => [q.id, values[q.id]]);
  const token = newToken();
  await database()
    .insert(formAttempt)
    .values({
      token,
      formId: form.id,
      values: Object.fromEntries(asked) as RawAnswers,
      errors,
      at: now,
    });
  return token;
}

/** Forgets what can be mended no longer. */
export async function forgetAttempts(now: number): Promise<void> {
  await database()
    .delete(formAttempt)
    .where(lt(formAttempt.at, now - KEPT_MS));
}

/** What was sent by a form before; null once it is not kept any more. */
export async function readAttempt(
  formId: string,
  token: string,
  now = Date.now(),
): Promise<FormAttempt | null> {
  const [row] = await database()
    .select({ values: formAttempt.values, errors: formAttempt.errors })
    .from(formAttempt)
    .where(
      and(
        eq(formAttempt.token, token.slice(0, 64)),
        eq(formAttempt.formId, formId),
        gte(formAttempt.at, now - KEPT_MS),
      ),
    );
  return row ?? null;
}
