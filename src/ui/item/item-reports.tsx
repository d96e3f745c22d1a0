"use client";
import Link from "next/link";
import { Field, TextInput } from "@/ui/kit/field";
import { TextButton, Button } from "@/ui/kit/button";
import { cutText } from "@/core/formats/cut-text";
import { useState, type FormEvent } from "react";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { exact } from "@/ui/kit/time";
import type { ItemHandle } from "./use-item";
import { intakeContract, reportContract } from "@/core/intake/contract";
import { ReportBehind } from "@/ui/intake/report-behind";
import { ask } from "@/ui/kit/request";

/** Who told of an item, and what people outside may know of it. */
export function ItemReports({ handle }: { handle: ItemHandle }) {
  const { view, reload } = handle;
  const [words, setWords] = useState<string | null>(null);
  const mayJudge = view.rights.judge;
  if (
    view.reports.length === 0 &&
    !view.knownAs &&
    !(mayJudge && view.item.stateKind !== "finished")
  )
    return null;
  const change = (asked: Promise<unknown>, done: string) =>
    asked.then(async () => {
      await reload();
      tellDone(done);
    }, tellProblem);
  const publish = (next: string | null) =>
    change(
      ask(intakeContract.publishKnown, { params: { id: view.item.id }, body: { words: next } }),
      next === null
        ? "It is not told outside any more."
        : "People who fill in a form are offered it now.",
    ).then(() => setWords(null));
  return (
    <section aria-label="Reports">
      <h3 className="mb-1 text-[13px]">
        Reports
        {view.votes.reports > 0 && (
          <span className="font-normal text-ink-soft">
            : {view.votes.reports} {view.votes.reports === 1 ? "person" : "people"} told us of it
          </span>
        )}
      </h3>
      <ul className="flex flex-col gap-0.5">
        {view.reports.map((r) => (
          <BehindIt
            key={r.id}
            report={r}
            view={view}
            reload={reload}
            onApart={() =>
              void change(
                ask(reportContract.takeApart, { params: { id: r.id } }),
                `${r.reference} is in the queue again.`,
              )
            }
          />
        ))}
      </ul>
      {view.knownAs !== null && (
        <p className="mt-1 text-[13px]">
          Known outside as “{view.knownAs}”.{" "}
          {mayJudge && <TextButton onClick={() => void publish(null)}>Tell it no more</TextButton>}
        </p>
      )}
      {mayJudge &&
        view.knownAs === null &&
        view.item.stateKind !== "finished" &&
        !view.item.restricted &&
        (words === null ? (
          <TextButton
            className="mt-1 text-[13px]"
            onClick={() => setWords(cutText(view.item.title, 200))}
          >
            Make it a known problem
          </TextButton>
        ) : (
          <form
            className="mt-1 flex items-end gap-2"
            onSubmit={(e: FormEvent) => {
              e.preventDefault();
              void publish(words);
            }}
          >
            <Field
              label="In words for people outside; nothing else of it is shown to them"
              className="flex-1"
            >
              <TextInput
                autoFocus
                required
                maxLength={200}
                value={words}
                onChange={(e) => setWords(e.target.value)}
              />
            </Field>
            <Button type="submit" small className="!min-h-[30px]">
              Publish
            </Button>
          </form>
        ))}
    </section>
  );
}

/** One of the reports: where it stands, its words where they are wanted, and taking it off. */
function BehindIt({
  report: { id, status, reference, title, receivedAt },
  view,
  reload,
  onApart,
}: {
  report: ItemHandle["view"]["reports"][number];
  view: ItemHandle["view"];
  reload: () => Promise<unknown>;
  onApart: () => void;
}) {
  const [open, setOpen] = useState(false);
  const mayJudge = view.rights.judge;
  const { key, zone } = view.project;
  return (
    <li>
      <div className="flex items-center gap-2">
        <span className="text-ink-soft">{status === "merged" ? "merged" : "it came from"}</span>
        {mayJudge ? (
          <Link prefetch={false} className="key link" href={`/p/${key}/intake?report=${reference}`}>
            {reference}
          </Link>
        ) : (
          <span className="key">{reference}</span>
        )}
        <span className="flex-1 truncate" title={exact(receivedAt, zone)}>
          {title}
        </span>
        <TextButton
          className="text-[12.5px] whitespace-nowrap"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? "close" : "read"} <span className="sr-only">{reference}</span>
        </TextButton>
        {mayJudge && status === "merged" && (
          <TextButton className="text-[12.5px] whitespace-nowrap" onClick={onApart}>
            take it off
          </TextButton>
        )}
      </div>
      {open && (
        <ReportBehind
          reportId={id}
          zone={zone}
          now={view.now}
          mayJudge={mayJudge}
          onChanged={reload}
        />
      )}
    </li>
  );
}
