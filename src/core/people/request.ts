import { z } from "zod";
import { nameSchema } from "./name";
import { DUTIES } from "./duty";
import { tradesSchema } from "./trade";

export const passwordSchema = z
  .string()
  .min(10, "A password has at least 10 characters.")
  .max(128, "A password has at most 128 characters.");
export const mailSchema = z
  .string()
  .trim()
  .toLowerCase()
  .pipe(z.email("This is no mail address.").max(200, "Use at most 200 characters."));

export const accountBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("make"),
    name: nameSchema,
    email: mailSchema,
    calling: z.string().trim().max(60).default(""),
    administrator: z.boolean().default(false),
  }),
  /**
   * Another link for somebody who has an account: the first ended, or the password is forgotten.
   */
  z.object({ kind: z.literal("link"), personId: z.string().min(1).max(64) }),
]);
export type AccountRequest = z.infer<typeof accountBody>;

export const welcomeBody = z.object({ password: passwordSchema });

export const signUpBody = z.object({
  name: nameSchema,
  email: mailSchema,
  password: passwordSchema,
});

export const memberBody = z.object({
  personId: z.string().min(1).max(64),
  /** Null takes the person out of the project. */
  role: z.enum(["lead", "member", "observer"]).nullable(),
  /** Left as they are where nothing is said of them. */
  trades: tradesSchema.optional(),
});

const holder = z.object({
  duty: z.enum(DUTIES),
  holderKind: z.enum(["person", "team"]),
  holderId: z.string().min(1).max(64),
});
export const dutiesBody = z.object({ holders: z.array(holder).max(500) });

/** Somebody who has forgotten their password asks for a letter. */
export const forgottenBody = z.object({ email: mailSchema });

/** Ends somebody, and says for each project who has their open items then; or brings them back. */
export const endPersonBody = z.object({
  ended: z.boolean(),
  handOn: z
    .array(
      z.object({
        projectId: z.string().min(1).max(64),
        /** Null: nobody yet. */
        personId: z.string().min(1).max(64).nullable(),
      }),
    )
    .max(200)
    .default([]),
});
export type EndPersonRequest = z.output<typeof endPersonBody>;

export const signInBody = z.object({ email: z.string().max(320), password: z.string().max(1_000) });

export const changePasswordBody = z.object({
  currentPassword: z.string().max(1_000),
  newPassword: passwordSchema,
});
