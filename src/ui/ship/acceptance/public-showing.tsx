"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { addressOf } from "@/core/contract/contract";
import { counted } from "@/core/formats/counted";
import type { PublicShowing } from "@/core/ship/acceptance/acceptance-view";
import { publicAcceptanceContract } from "@/core/ship/acceptance/public-contract";
import { Sheet } from "@/ui/intake/public-sheet";
import { TextInput } from "@/ui/kit/field";
import { ask, keyOf, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { ago, shortDate } from "@/ui/kit/time";
import { AnswerForm } from "./answer-form";
import { AnsweredMark } from "./answered-mark";
import { ShownPictures } from "./shown-pictures";
import { TestsShown } from "./tests-shown";

const LOOK_AGAIN_MS = 30_000;

/** What was done, for somebody without an account: they look, and say their word. */
export function PublicShowingPage({ token, initial }: { token: string; initial: PublicShowing }) {
  const client = useQueryClient();
  const params = { token };
  const { data: page } = useQuery({
    ...queryOf(publicAcceptanceContract.page, { params }),
    initialData: initial,
    refetchInterval: LOOK_AGAIN_MS,
  });
  const [name, setName] = useState("");
  const nameField = useRef<HTMLInputElement>(null);
  const nameless = (): boolean => {
    if (name.trim() !== "") return false;
    nameField.current?.focus();
    return true;
  };
  const say = async (
    itemIds: string[],
    accepted: boolean,
    words: string,
  ): Promise<Problem | null> => {
    try {
      client.setQueryData(
        keyOf(publicAcceptanceContract.page, { params }),
        await ask(publicAcceptanceContract.say, {
          params,
          body: { itemIds, accepted, name, words },
        }),
      );
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  if (page.closed !== null) return <Closed page={page} />;
  const waits = page.items.filter(({ answered }) => answered !== "accepted");
  const unsaid = page.items.filter(({ answered }) => answered === "waits");
  return (
    <Sheet projectName={page.projectName}>
      <p className="text-[13px] text-ink-soft">For {page.name}</p>
      <h1 className="mt-1 text-[24px] leading-tight">
        {waits.length === 0
          ? "Thank you, you accepted all of it"
          : page.items.length === 1
            ? "This is done: please have a look"
            : `${counted(page.items.length, "thing")} are done: please have a look`}
      </h1>
      {page.words && <p className="mt-3 whitespace-pre-wrap">{page.words}</p>}
      <label className="mt-4 flex max-w-[320px] flex-col gap-1 text-[13px] font-semibold">
        Your name
        <TextInput
          ref={nameField}
          value={name}
          maxLength={120}
          autoComplete="name"
          placeholder="Who says it"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <ol className="shown-items">
        {page.items.map((one) => (
          <PublicItem
            key={one.itemId}
            of={one}
            page={page}
            token={token}
            onNameless={nameless}
            onSay={(accepted, words) => say([one.itemId], accepted, words)}
          />
        ))}
      </ol>
      {unsaid.length > 1 && (
        <section aria-label="All of it" className="mt-6 border-t border-line pt-4">
          <h2 className="text-[17px]">All of it is right?</h2>
          <AnswerForm
            what="all of it"
            all
            onNameless={nameless}
            onSay={(accepted, words) =>
              say(
                unsaid.map(({ itemId }) => itemId),
                accepted,
                words,
              )
            }
          />
        </section>
      )}
      <p className="mt-6 text-[13px] text-ink-soft">
        This page is there until {shortDate(isoDate(dayNumber(page.until, page.zone)))}. Looking at
        it changes nothing. Whoever has its address can answer in your name: keep it to yourself.
      </p>
    </Sheet>
  );
}

function PublicItem({
  of,
  page,
  token,
  onNameless,
  onSay,
}: {
  of: PublicShowing["items"][number];
  page: PublicShowing;
  token: string;
  onNameless: () => boolean;
  onSay: (accepted: boolean, words: string) => Promise<Problem | null>;
}) {
  const { title, how, address, tested, pictures, answered, said } = of;
  return (
    <li data-answered={answered}>
      <h2 className="text-[19px] leading-snug">{title}</h2>
      {how && (
        <div className="mt-2">
          <p className="text-[13px] font-semibold">How to see it</p>
          <p className="whitespace-pre-wrap">{how}</p>
        </div>
      )}
      {address && (
        <p className="mt-1">
          <a className="link" href={address} target="_blank" rel="noreferrer">
            Open it
          </a>
        </p>
      )}
      <ShownPictures
        pictures={pictures}
        addressFor={(picture) =>
          addressOf(publicAcceptanceContract.picture, { params: { token, picture } })
        }
      />
      <TestsShown tested={tested} zone={page.zone} />
      {said && (
        <p role="status" className="said" data-answered={answered}>
          <AnsweredMark of={answered} />
          <span>
            {saidWords(answered, said.name)}{" "}
            <span className="text-ink-soft">{ago(said.at, Math.max(page.now, said.at))}</span>
            {said.words && <span className="block whitespace-pre-wrap">{said.words}</span>}
          </span>
        </p>
      )}
      {answered === "accepted" ? (
        <details className="mt-2">
          <summary className="cursor-pointer text-[13px]">Something is not right after all</summary>
          <AnswerForm onlyMissing what={title} onNameless={onNameless} onSay={onSay} />
        </details>
      ) : (
        <AnswerForm what={title} onNameless={onNameless} onSay={onSay} />
      )}
    </li>
  );
}

const saidWords = (answered: PublicShowing["items"][number]["answered"], name: string): string => {
  if (answered === "accepted") return `${name} accepted it`;
  if (answered === "missing") return `${name} said that something is missing`;
  return `${name} accepted it, but it was changed since: please look once more. Accepted`;
};

/** What was taken back, or is over. */
const Closed = ({ page }: { page: PublicShowing }) => (
  <Sheet projectName={page.projectName}>
    <h1 className="text-[24px] leading-tight">
      {page.closed === "over" ? "The time of this page is over" : "This page was taken back"}
    </h1>
    <p className="mt-2">
      {page.items.some(({ said }) => said) ? "What you said is kept. " : "Nothing was said on it. "}
      If you were asked to look at something, answer to whoever wrote to you: they can ask again.
    </p>
  </Sheet>
);
