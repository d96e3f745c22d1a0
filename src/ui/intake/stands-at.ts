import type { SimilarItem } from "@/core/intake/desk-view";

/** Where an item stands, or what became of it. */
export const standsAt = ({
  progress,
  stateName,
}: Pick<SimilarItem, "progress" | "stateName">): string =>
  progress.stateKind === "finished" ? (progress.outcome ?? "finished") : stateName;
