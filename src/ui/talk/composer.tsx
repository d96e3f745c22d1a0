"use client";
import { useState, type FormEvent } from "react";
import { counted } from "@/core/formats/counted";
import type { Audience } from "@/core/talk/comment";
import { namedIn } from "@/core/talk/named";
import type { FileSpot } from "@/core/talk/spot";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { tellProblem } from "@/ui/kit/notice";
import { useKeptText } from "@/ui/kit/use-kept-text";
import type { ItemHandle } from "@/ui/item/use-item";
import { SaidWords } from "./said-words";
import { WritingField } from "./writing-field";

interface Props {
  handle: ItemHandle;
  /** The comment that is answered. */
  answers?: string;
  /** The comment that is changed. */
  edits?: { commentId: string; body: string };
  /** The place on a file that it is about. */
  spot?: FileSpot;
  autoFocus?: boolean;
  onDone?: () => void;
}

/** Where something is said. What is typed stays in the browser until it is stored. */
export function Composer({ handle, answers, edits, spot, autoFocus, onDone }: Props) {
  const { view, send } = handle;
  const { talk } = view;
  const [draft, setDraft] = useKeptText(`${view.key} ${answers ?? spot?.fileId ?? ""}`);
  const [changed, setChanged] = useState(edits?.body ?? "");
  const [body, setBody] = edits ? [changed, setChanged] : [draft, setDraft];
  const [audience, setAudience] = useState<Audience>("team");
  const [asks, setAsks] = useState(false);
  const [preview, setPreview] = useState(false);
  const [busy, setBusy] = useState(false);
  const outside = audience === "reporters";
  const mayReachReporters =
    !answers && !edits && !spot && view.reports.length > 0 && talk.closed !== "members";
  const written = body.trim() !== "";
  const store = async (event?: FormEvent) => {
    event?.preventDefault();
    if (!written || busy) return;
    setBusy(true);
    try {
      if (edits) await send({ kind: "edit comment", commentId: edits.commentId, body });
      else if (outside) await send({ kind: "ask", body }, "It goes to the reporters.");
      else
        await send({
          kind: "comment",
          body,
          answersId: answers,
          asks: asks || undefined,
          spot,
        });
      if (!edits) setDraft("");
      setAsks(false);
      setPreview(false);
      setAudience("team");
      onDone?.();
    } catch (error) {
      tellProblem(error);
    }
    setBusy(false);
  };
  const named = namedIn(body, talk.nameable);
  const names = named.people.length + named.teams.length > 0;
  const mayAsk = !edits && !outside && (names || view.item.assigneeId !== null);
  return (
    <form onSubmit={(e) => void store(e)} className="composer" data-audience={audience}>
      {preview ? (
        <div className="composer-preview" aria-label="How it will look">
          <SaidWords text={body} known={talk} />
        </div>
      ) : (
        <WritingField
          body={body}
          onChange={setBody}
          rows={2}
          nameable={outside ? [] : talk.nameable}
          label={labelOf({ edits, answers, spot })}
          hint={outside ? "Write to the reporters …" : "Write to the team, @ names somebody …"}
          autoFocus={autoFocus}
          onStore={() => void store()}
          onLeave={body === "" ? onDone : undefined}
          attachesTo={
            outside || !view.rights.edit ? undefined : { itemKey: view.key, onThere: handle.reload }
          }
        />
      )}
      {outside && (
        <p className="composer-outside">{reachWords(talk.reporters, view.votes.reports)}</p>
      )}
      <div className="composer-foot">
        {mayReachReporters && (
          <span role="group" aria-label="Whom it is for" className="composer-audience">
            {(["team", "reporters"] as const).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={audience === one}
                onClick={() => setAudience(one)}
              >
                {one === "team" ? "to the team" : `to ${counted(view.reports.length, "reporter")}`}
              </button>
            ))}
          </span>
        )}
        {mayAsk && written && (
          <Check checked={asks} onChange={setAsks}>
            {names ? "wants an answer" : "asks whoever has it"}
          </Check>
        )}
        <span className="flex-1" />
        {written && (
          <Button small look="quiet" onClick={() => setPreview(!preview)}>
            {preview ? "Write on" : "How it looks"}
          </Button>
        )}
        {onDone && (
          <Button small look="quiet" onClick={onDone}>
            Leave it
          </Button>
        )}
        {(written || onDone) && (
          <Button type="submit" small look="strong" disabled={busy || !written}>
            {edits
              ? "Store it"
              : outside
                ? "Send it out"
                : answers
                  ? "Answer"
                  : spot
                    ? "Put it there"
                    : "Add comment"}
          </Button>
        )}
      </div>
    </form>
  );
}

/** What the field is called. */
function labelOf({ edits, answers, spot }: Pick<Props, "edits" | "answers" | "spot">): string {
  if (edits) return "Change what you said";
  if (answers) return "Write an answer";
  return spot ? "Write a remark on this place" : "Write a comment";
}

const reachWords = (mails: readonly string[], told: number): string =>
  mails.length > 0
    ? `Goes out by mail to ${mails.join(", ")}, and stands on their private page.`
    : `Stands on the private page of ${counted(Math.max(1, told), "person", "people")}: no address is known.`;
