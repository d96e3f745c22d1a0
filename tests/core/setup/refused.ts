import type { z } from "zod";

/** Why a body is refused, in the words that whoever sent it reads; nothing where it is understood. */
export function refused(schema: z.ZodType, body: unknown): string[] {
  const { success, error } = schema.safeParse(body);
  return success ? [] : error.issues.map((issue) => issue.message);
}
