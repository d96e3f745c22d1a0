import type { Random } from "@/core/forecast/random";

/**
 * Ids in the form of random UUIDs (version 4), from a seeded source so that each demo is the same.
 */
export function uuidSource(random: Random): () => string {
  const hex = (digits: number) =>
    Array.from({ length: digits }, () => random.index(16).toString(16)).join("");
  return () => `${hex(8)}-${hex(4)}-4${hex(3)}-${"89ab"[random.index(4)]}${hex(3)}-${hex(12)}`;
}
