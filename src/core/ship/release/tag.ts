import { z } from "zod";

/** A tag as git takes it (git-check-ref-format), without what shells and addresses stumble over. */
export const tagName = z
  .string()
  .trim()
  .max(100)
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, "A tag is made of letters, digits, dots and dashes.")
  .refine((name) => !name.includes("..") && !/\.(?:lock)?$/.test(name), "git takes no such tag.");

/** The tag that a release has by its name: "crossing-20". */
export const tagFor = (name: string): string => {
  const plain = name.toLowerCase().normalize("NFKD");
  const words = plain.match(/[a-z0-9]+(?:\.[a-z0-9]+)*/g) ?? [];
  return words.join("-").slice(0, 60);
};

/** Asks code hosts to tag the commit that a release went out with. */
export const tagBody = z.object({ name: tagName, in: z.array(z.uuid()).min(1).max(20) });
export type TagBody = z.output<typeof tagBody>;
