"use client";
import { useState, useSyncExternalStore } from "react";
import { LONGEST_REASON, questionWords, type AskedScope } from "@/core/plan/scope-reason";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { hearWhyAsked, leaveWhy, sayWhyOfAll, whyAsked } from "./ask-why";

const NONE: readonly AskedScope[] = [];

/** Why what a sprint holds was changed while it runs: asked beside whatever page that was done on. */
export function AskedWhy() {
  const asked = useSyncExternalStore(hearWhyAsked, whyAsked, () => NONE);
  return asked.length === 0 ? null : <Asked asked={asked} />;
}

function Asked({ asked }: { asked: readonly AskedScope[] }) {
  const [words, setWords] = useState("");
  const say = () =>
    sayWhyOfAll(words).then(
      () => tellDone("The reason is kept with the sprint."),
      (error) => tellProblem(error),
    );
  return (
    <form
      aria-label="Why the scope changes"
      className="popover fixed bottom-9 left-4 flex w-[380px] max-w-[94vw] flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim() !== "") void say();
      }}
    >
      <p role="status" className="text-[13px]">
        {questionWords(asked)}
      </p>
      <span className="flex items-center gap-2">
        <TextInput
          aria-label="The reason"
          maxLength={LONGEST_REASON}
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === "Escape") leaveWhy();
          }}
        />
        <Button small type="submit" disabled={words.trim() === ""}>
          Say it
        </Button>
        <Button small look="quiet" type="button" onClick={leaveWhy}>
          Later
        </Button>
      </span>
    </form>
  );
}
