"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { SHOWN_ANSWERS, type Thread } from "@/core/talk/threads";
import { TextButton } from "@/ui/kit/button";
import type { ItemHandle } from "@/ui/item/use-item";
import { CommentLine } from "./comment-line";
import { Composer } from "./composer";
import { commentPlace } from "./use-named-comment";

/** A comment with the answers to it; earlier answers of a long thread are folded. */
export function ThreadLines({
  handle,
  thread: { first, answers },
  named,
}: {
  handle: ItemHandle;
  thread: Thread;
  /** The comment that the address names. */
  named: string | null;
}) {
  const [unfolded, setUnfolded] = useState(false);
  const [answering, setAnswering] = useState(false);
  const holdsNamed = answers.some(({ id }) => id === named);
  const hidden = unfolded || holdsNamed ? 0 : Math.max(0, answers.length - SHOWN_ANSWERS);
  const mayAnswer =
    handle.view.rights.comment && handle.view.talk.closed !== "nobody" && first.audience === "team";
  return (
    <div className="thread">
      <CommentLine
        handle={handle}
        comment={first}
        named={first.id === named}
        onAnswer={mayAnswer ? () => setAnswering(true) : undefined}
      />
      {answers.length > 0 && (
        <div className="thread-answers">
          {hidden > 0 && (
            <TextButton className="text-[13px]" onClick={() => setUnfolded(true)}>
              {counted(hidden, "earlier answer")}
            </TextButton>
          )}
          {answers.slice(hidden).map((answer) => (
            <div key={answer.id} id={commentPlace(answer.id)}>
              <CommentLine
                handle={handle}
                comment={answer}
                named={answer.id === named}
                onAnswer={mayAnswer ? () => setAnswering(true) : undefined}
              />
            </div>
          ))}
        </div>
      )}
      {answering && (
        <div className="thread-answers">
          <Composer
            handle={handle}
            answers={first.id}
            autoFocus
            onDone={() => setAnswering(false)}
          />
        </div>
      )}
    </div>
  );
}
