"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { alertsContract } from "@/core/alerts/contract";
import type { AlertRulesView } from "@/core/alerts/rules-view";
import { Button, TextButton } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";

/** The private address of my feed, and the items of which I want no mail. */
export function FeedAndStops({ view }: { view: AlertRulesView }) {
  const client = useQueryClient();
  const [address, setAddress] = useState<string | null>(null);
  const readAgain = () => client.invalidateQueries({ queryKey: keyOf(alertsContract.rules) });
  const doing = (act: () => Promise<unknown>) => () => void act().then(readAgain, tellProblem);
  const make = doing(async () =>
    setAddress((await ask(alertsContract.makeFeed, { body: {} })).address),
  );
  const end = doing(async () => {
    await ask(alertsContract.endFeed, {});
    setAddress(null);
  });
  return (
    <>
      <section className="sheet flex flex-col gap-2 p-4">
        <h2 className="text-[15px]">My feed</h2>
        <p className="text-[13px] text-ink-soft">{feedWords(view)}</p>
        {address !== null && (
          <p className="text-[13px]">
            <code className="block [overflow-wrap:anywhere]">{address}</code>
            It is shown this once.{" "}
            <TextButton onClick={() => void copyText(address, "The address is copied.")}>
              Copy it
            </TextButton>
          </p>
        )}
        <div className="flex gap-2">
          <Button small onClick={make}>
            {view.feed ? "Make another address" : "Make an address"}
          </Button>
          {view.feed && (
            <Button small look="danger" onClick={end}>
              End it
            </Button>
          )}
        </div>
      </section>
      {view.stopped.length > 0 && (
        <section className="sheet flex flex-col gap-1 p-4">
          <h2 className="text-[15px]">No mail about</h2>
          <ul>
            {view.stopped.map(({ id, key, title }) => (
              <li key={id} className="flex items-center gap-2 py-0.5">
                <span className="key">{key}</span>
                <span className="min-w-0 flex-1 truncate">{title}</span>
                <TextButton
                  className="text-[13px]"
                  aria-label={`Mail about ${key} again`}
                  onClick={doing(() =>
                    ask(alertsContract.mailAbout, { body: { itemId: id, stopped: false } }),
                  )}
                >
                  Mail again
                </TextButton>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function feedWords({ feed, now }: AlertRulesView): string {
  if (!feed) return "An address at which a program of yours reads what is ticked under feed.";
  const read =
    feed.readAt === null
      ? "never read yet"
      : `last read ${ago(feed.readAt, Math.max(now, feed.readAt))}`;
  return `Made ${ago(feed.since, Math.max(now, feed.since))}, ${read}. Whoever knows its address reads it.`;
}
