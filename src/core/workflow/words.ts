import type { Vocabulary } from "@/core/condition/vocabulary";
import { named } from "./named";
import type { Mover } from "./requirement";
import { listWords } from "../formats/list-words";

/** Who may make a transition: "a lead or the assignee"; null for everyone. */
export function moversWords(who: readonly Mover[], vocabulary: Vocabulary): string | null {
  if (who.length === 0) return null;
  return listWords(
    who.map((m) => {
      switch (m.kind) {
        case "role":
          return m.role === "lead" ? "a lead" : "a member";
        case "team":
          return `somebody of ${named(vocabulary.teams, m.teamId)}`;
        case "assignee":
          return "the assignee";
        case "reviewer":
          return "the reviewer";
        case "requester":
          return "whoever asked for it";
        case "not the assignee":
          return "anyone but the assignee";
      }
    }),
  );
}
