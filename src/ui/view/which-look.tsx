"use client";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useMemo, useState } from "react";
import { viewContract } from "@/core/view/contract";
import { partText } from "@/core/view/filter-words";
import { proposals, QUESTIONS } from "@/core/view/proposals";
import { LONGEST_SAID, readSaid, type Said } from "@/core/view/said";
import { factLabel } from "@/core/condition/vocabulary";
import { Field, TextInput } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { problemOf, queryOf } from "@/ui/kit/request";
import { Sheet } from "@/ui/kit/sheet";
import { LookPicture } from "./look-picture";
import type { LookHandle } from "./use-look";

/**
 * Which look answers a question: said in one's own words or chosen, and shown as three small
 * pictures of one's own items.
 */
export function WhichLook({
  handle,
  open,
  onClose,
}: {
  handle: LookHandle;
  open: boolean;
  onClose: () => void;
}) {
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Which look answers my question?"
      className="!w-[940px]"
    >
      <Asking handle={handle} onClose={onClose} />
    </Sheet>
  );
}

const [[, [[, FIRST]]]] = QUESTIONS.map(({ who, asks }) => [who, asks] as const);

function Asking({ handle, onClose }: { handle: LookHandle; onClose: () => void }) {
  const [text, setText] = useState<string>(FIRST);
  const { vocabulary, named, boards } = handle.views;
  const later = useDeferredValue(text);
  const said = useMemo(() => readSaid(later, vocabulary, named), [later, vocabulary, named]);
  const proposed = useMemo(() => proposals(said, boards, vocabulary), [said, boards, vocabulary]);
  const { data, error } = useQuery({
    ...queryOf(viewContract.pictures, {
      params: { key: handle.projectKey },
      body: { looks: proposed.map(({ look }) => ({ ...look, sort: [...look.sort] })) },
    }),
    placeholderData: keepPreviousData,
  });
  return (
    <div className="flex gap-5">
      <div className="w-[260px] shrink-0">
        {QUESTIONS.map(({ who, asks }) => (
          <section key={who} className="mb-2.5">
            <h3 className="text-[12px] font-normal text-ink-soft">{who}</h3>
            <ul>
              {asks.map(([question, words]) => (
                <li key={question}>
                  <button
                    type="button"
                    className="menu-item w-full text-left"
                    aria-pressed={text === words}
                    data-chosen={text === words}
                    onClick={() => setText(words)}
                  >
                    {question}
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      <div className="min-w-0 flex-1">
        <Field label="Say what you want to see">
          <TextInput
            autoFocus
            value={text}
            maxLength={LONGEST_SAID}
            placeholder="urgent, not started, by team"
            onFocus={(event) => event.target.select()}
            onChange={(event) => setText(event.target.value)}
          />
        </Field>
        <Understood said={said} handle={handle} />
        {error && <FormProblem>{problemOf(error).sentence}</FormProblem>}
        <ul className="mt-3 grid grid-cols-3 gap-3">
          {proposed.map(({ words, look }, i) => (
            <li key={i}>
              <button
                type="button"
                className="look-proposal"
                onClick={() => {
                  onClose();
                  void handle.openLook(look);
                }}
              >
                <LookPicture picture={data?.[i] ?? null} />
                <span className="mt-2 block text-left text-[13px] font-semibold">{words}</span>
              </button>
            </li>
          ))}
        </ul>
        <p className="mt-3 text-[12.5px] text-ink-soft">
          A press opens it. Keep it there as a view, to find it again.
        </p>
      </div>
    </div>
  );
}

/** What was understood, so that nothing is shown that was not meant. */
function Understood({ said, handle }: { said: Said; handle: LookHandle }) {
  const { vocabulary, named } = handle.views;
  const { parts, by, sort, words } = said;
  const told = [
    ...parts.map((part) => partText(part, vocabulary, named)),
    ...(by ? [`by ${factLabel(by, vocabulary)}`] : []),
    ...(sort
      ? [`sorted by ${factLabel(sort.fact, vocabulary)}${sort.descending ? ", falling" : ""}`]
      : []),
  ];
  return (
    <div role="status" className="mt-1.5 min-h-[38px] text-[12.5px] text-ink-soft">
      {told.length > 0 ? <p>Understood: {told.join(" · ")}</p> : <p>Everything, as it stands.</p>}
      {words.length > 0 && (
        <p className="text-signal-ink">
          {words.map((word) => `“${word}”`).join(", ")} is no word of this project: it is looked for
          in the titles.
        </p>
      )}
    </div>
  );
}
