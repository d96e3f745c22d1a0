import { ownValueWords } from "@/core/item/own-field";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { FIELD_WORDS, itemField, type SetField } from "@/core/item/fields";
import type { FollowUp, NewAssignee, Recipient } from "./follow-up";
import type { Mover } from "./requirement";
import { listWords } from "../formats/list-words";

const named = (things: readonly { id: string; name: string }[], id: string) =>
  things.find((t) => t.id === id)?.name ?? "somebody gone";

function valueWords(field: SetField, value: unknown, vocabulary: Vocabulary): string {
  const { editor } = itemField(field);
  return editor.kind === "choice" && typeof editor.options === "string"
    ? named(vocabulary[editor.options], String(value))
    : String(value);
}

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

function assigneeWords(to: NewAssignee, vocabulary: Vocabulary): string {
  switch (to.kind) {
    case "person":
      return `gives it to ${named(vocabulary.people, to.personId)}`;
    case "nobody":
      return "takes the assignee off";
    case "mover":
      return "gives it to whoever moves it";
    case "creator":
      return "gives it to its creator";
    case "reviewer":
      return "gives it to the reviewer";
    case "previous assignee":
      return "gives it back to who had it before";
    case "least loaded":
      return `gives it to whoever of ${named(vocabulary.teams, to.teamId)} has least in progress`;
    case "in turn":
      return `gives it to the next in turn of ${named(vocabulary.teams, to.teamId)}`;
  }
}

/** Who is told: "the assignee", "the leads". */
export function recipientWords(told: Recipient, vocabulary: Vocabulary): string {
  if (told.kind === "person") return named(vocabulary.people, told.personId);
  if (told.kind === "team") return `everybody of ${named(vocabulary.teams, told.teamId)}`;
  return told.kind === "requester" ? "whoever asked for it" : `the ${told.kind}`;
}

/** What a transition does afterwards: "sets the priority to high". */
export function followUpWords(followUp: FollowUp, vocabulary: Vocabulary): string {
  switch (followUp.kind) {
    case "set field": {
      if (followUp.change.field === "own") {
        const { fieldId, value } = followUp.change;
        const own = vocabulary.own.find((f) => f.id === fieldId);
        if (!own) return "sets a field that is gone";
        return value === null
          ? `clears “${own.name}”`
          : `sets “${own.name}” to ${ownValueWords(own, value, (id) => named(vocabulary.people, id))}`;
      }
      const { field, value } = followUp.change;
      if (value === null) return `clears the ${FIELD_WORDS[field]}`;
      return `sets the ${FIELD_WORDS[field]} to ${valueWords(field, value, vocabulary)}`;
    }
    case "assign":
      return assigneeWords(followUp.to, vocabulary);
    case "set outcome":
      return `sets the outcome to ${followUp.outcome}`;
    case "comment":
      return `comments “${followUp.text}”`;
    case "create sub-tasks":
      return followUp.titles.length === 1
        ? `makes the sub-task “${followUp.titles[0]}”`
        : `makes ${followUp.titles.length} sub-tasks`;
    case "finish duplicates":
      return "finishes its duplicates";
    case "reopen duplicates":
      return "reopens its duplicates";
    case "tell":
      return `tells ${listWords(
        followUp.whom.map((w) => recipientWords(w, vocabulary)),
        "and",
      )}: “${followUp.text}”`;
    case "put on top":
      return "puts it on top";
  }
}
