"use client";
import { addressOf } from "@/core/contract/contract";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import type { OwnShown } from "@/core/ship/acceptance/acceptance-view";
import { ANSWERED_WORDS } from "@/core/ship/acceptance/answer";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { ago } from "@/ui/kit/time";
import { AnswerForm } from "./answer-form";
import { AnsweredMark } from "./answered-mark";
import { ShownPictures } from "./shown-pictures";
import { TestsShown } from "./tests-shown";
import type { AcceptanceHandle } from "./use-acceptance";

/** What is shown to whoever looks, and waits for their own word. */
export function OwnShownList({ handle }: { handle: AcceptanceHandle }) {
  const { own } = handle.view;
  if (own.length === 0) return null;
  const waits = own.filter(({ answered }) => answered !== "accepted");
  const title = waits.length > 0 ? "Waits for your word" : "Shown to you";
  return (
    <section aria-label={title} className="mb-6">
      <h2 className="mb-1 flex items-baseline gap-2 text-[15px]">
        {title}{" "}
        <span className="font-display text-ink-soft tabular-nums">
          {waits.length > 0 ? waits.length : own.length}
        </span>
      </h2>
      <ul className="own-shown">
        {own.map((one) => (
          <OwnShownCard key={`${one.showingId} ${one.itemId}`} of={one} handle={handle} />
        ))}
      </ul>
    </section>
  );
}

function OwnShownCard({ of, handle }: { of: OwnShown; handle: AcceptanceHandle }) {
  const { openItem } = usePanel();
  const { project, now } = handle.view;
  const { key, title, how, address, answered } = of;
  const params = { key: project.key, showing: of.showingId };
  return (
    <li data-answered={answered}>
      <p className="text-[12.5px] text-ink-soft">
        {key && (
          <TextButton className="key" onClick={() => openItem(key)}>
            {key}
          </TextButton>
        )}{" "}
        shown by {of.askedBy}, {ago(of.askedAt, now)}
      </p>
      <h3 className="text-[15px]">{title}</h3>
      {of.words && <p className="mt-1 text-[13px] whitespace-pre-wrap">{of.words}</p>}
      {how && <p className="mt-2 text-[13px] whitespace-pre-wrap">{how}</p>}
      {address && (
        <a className="link text-[13px]" href={address} target="_blank" rel="noreferrer">
          Open it
        </a>
      )}
      <TestsShown tested={of.tested} zone={project.zone} />
      <ShownPictures
        pictures={of.pictures}
        addressFor={(picture) =>
          addressOf(acceptanceContract.picture, { params: { ...params, picture } })
        }
      />
      <p className="mt-2 flex items-center gap-1.5 text-[13px]">
        <AnsweredMark of={answered} /> {ANSWERED_WORDS[answered]}
      </p>
      {answered !== "accepted" && (
        <AnswerForm
          what={key ?? title}
          onSay={(accepted, words) =>
            handle.say(of.showingId, {
              ...{ itemIds: [of.itemId], accepted, words, name: handle.view.me.name },
            })
          }
        />
      )}
    </li>
  );
}
