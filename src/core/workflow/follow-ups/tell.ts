import { z } from "zod";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { listWords } from "@/core/formats/list-words";
import { named } from "../named";
import { ID, wordsOf } from "../parameter";
import { followUpKind } from "./kind";

const LONGEST = 500;

const recipientSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.enum(["assignee", "reviewer", "creator", "requester", "leads"]) }),
  z.object({ kind: z.literal("person"), personId: ID }),
  z.object({ kind: z.literal("team"), teamId: ID }),
]);

/** Who is told of something. */
export type Recipient = z.output<typeof recipientSchema>;

const FIRST: Recipient[] = [{ kind: "assignee" }];

/** Who is told: "the assignee", "the leads". */
export function recipientWords(told: Recipient, vocabulary: Vocabulary): string {
  if (told.kind === "person") return named(vocabulary.people, told.personId);
  if (told.kind === "team") return `everybody of ${named(vocabulary.teams, told.teamId)}`;
  return told.kind === "requester" ? "whoever asked for it" : `the ${told.kind}`;
}

export const tell = followUpKind({
  title: "tell people",
  parameters: { whom: z.array(recipientSchema).min(1).max(20), text: wordsOf(LONGEST) },
  begins: () => ({ whom: FIRST, text: "Something is ready for you." }),
  editors: {
    whom: { kind: "recipients" },
    text: { kind: "text", label: "What they are told", most: LONGEST },
  },
  words: ({ whom, text }, vocabulary) => {
    const told = whom.map((w) => recipientWords(w, vocabulary));
    return `tells ${listWords(told, "and")}: “${text}”`;
  },
});
