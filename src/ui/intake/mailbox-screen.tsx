"use client";
import { Field, TextInput } from "@/ui/kit/field";
import { TextButton, Button } from "@/ui/kit/button";
import { namedOptions, Select } from "@/ui/kit/select";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import Link from "next/link";
import { FATE_WORDS } from "@/core/intake/letters";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ago, exact } from "@/ui/kit/time";
import { useReadAgain } from "@/ui/kit/use-read-again";
import type { MailboxView } from "@/core/intake/mailbox-view";
import { intakeContract } from "@/core/intake/contract";
import type { AddressRequest } from "@/core/intake/request";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

/**
 * The mailbox of a project: its addresses, what came in and what became of it, what went out and
 * whether it arrived.
 */
export function MailboxScreen({ initial }: { initial: MailboxView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: view } = useQuery({
    ...queryOf(intakeContract.mailbox, { params: { key } }),
    initialData: initial,
    refetchInterval: 15_000,
  });
  const again = () =>
    client.invalidateQueries({ queryKey: keyOf(intakeContract.mailbox, { params: { key } }) });
  useReadAgain((message) => message.kind !== "item", again);
  const [name, setName] = useState("");
  /** @throws Problem */
  const send = async (body: AddressRequest) => {
    await ask(intakeContract.changeMailbox, { params: { key }, body });
    await again();
  };
  const add = (event: FormEvent) => {
    event.preventDefault();
    send({ kind: "add", name, teamId: null }).then(
      () => (
        setName(""),
        tellDone(`${name}@${view.domain} takes mail.`, () => send({ kind: "remove", name }))
      ),
      tellProblem,
    );
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Mailbox</h1>
        <p className="text-ink-soft">
          {view.waiting === 0
            ? "Every letter is sent."
            : view.waiting === 1
              ? "1 letter waits to be sent."
              : `${view.waiting} letters wait to be sent.`}{" "}
          {!view.sends &&
            "No mail server is set up: letters stay here and on the requesters' pages."}
        </p>
        <span className="flex-1" />
        {view.standIn && (
          <a className="link text-[13px]" href={view.standIn} target="_blank" rel="noreferrer">
            Requesters' mail in the stand-in
          </a>
        )}
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[300px_minmax(0,1fr)_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:overflow-y-auto">
        <section aria-label="Addresses" className="overflow-y-auto border-r border-line px-4 py-3">
          <h2 className="text-[14px]">Addresses</h2>
          <p className="text-[12.5px] text-ink-soft">
            {view.takes
              ? "Mail to these becomes a report; an answer to a letter of ours stands with its report."
              : "Mail is not handed over to the product here: nothing comes in by these."}
          </p>
          <ul>
            {view.addresses.map((a) => (
              <AddressLine key={a.name} address={a} view={view} send={send} />
            ))}
          </ul>
          {view.addresses.length === 0 && <p className="py-3 text-ink-soft">No address yet.</p>}
          {view.mayEdit && (
            <form onSubmit={add} className="mt-3 flex items-end gap-2">
              <Field label="New address, before the @" className="min-w-0 flex-1">
                <TextInput
                  required
                  maxLength={60}
                  value={name}
                  onChange={(e) => setName(e.target.value.toLowerCase())}
                  placeholder="help"
                />
              </Field>
              <Button type="submit">Add</Button>
            </form>
          )}
        </section>
        <CameIn view={view} />
        <WentOut view={view} />
      </div>
    </div>
  );
}

/** What came in, and what became of it. */
function CameIn({ view }: { view: MailboxView }) {
  return (
    <section aria-label="Came in" className="overflow-y-auto border-r border-line">
      <h2 className="border-b border-line px-4 py-2 text-[14px]">Came in</h2>
      {view.received.length === 0 && (
        <p className="p-4 text-ink-soft">
          Nothing yet. Mail to one of the addresses stands here with what became of it.
        </p>
      )}
      <ul>
        {view.received.map((m) => (
          <li key={`${m.at} ${m.sender} ${m.subject}`} className="border-b border-line px-4 py-2">
            <p className="flex justify-between gap-2 text-[12.5px] text-ink-soft">
              <span className="truncate">{m.sender}</span>
              <time className="whitespace-nowrap" title={exact(m.at, view.project.zone)}>
                {ago(m.at, Math.max(m.at, view.now))}
              </time>
            </p>
            <p className="font-medium leading-snug">{m.subject || "no subject"}</p>
            <p className="text-[12.5px] text-ink-soft">
              {FATE_WORDS[m.became]} {m.reference && <span className="key">{m.reference}</span>}
              {m.itemKey && (
                <Link className="link key" href={`/p/${view.project.key}/items/${m.itemKey}`}>
                  {m.itemKey}
                </Link>
              )}
            </p>
            {m.why && <p className="text-[12.5px] text-alarm">It waits because {m.why}.</p>}
            {m.words && (
              <p className="mt-1 whitespace-pre-wrap border-l-2 border-line pl-2 text-[13px] [overflow-wrap:anywhere]">
                {m.words}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What went out and whether it arrived; each letter can be read. */
function WentOut({ view }: { view: MailboxView }) {
  const [read, setRead] = useState<number | null>(null);
  const letter = view.written.find((w) => w.id === read);
  return (
    <section aria-label="Went out" className="overflow-y-auto">
      <h2 className="border-b border-line px-4 py-2 text-[14px]">Went out</h2>
      {view.written.length === 0 && (
        <p className="p-4 text-ink-soft">
          Nothing yet. Receipts, questions and news to requesters stand here.
        </p>
      )}
      <ul>
        {view.written.map((w) => (
          <li key={w.id} className="border-b border-line">
            <button
              type="button"
              aria-expanded={w.id === read}
              className="block w-full px-4 py-2 text-left hover:bg-sheet"
              onClick={() => setRead(w.id === read ? null : w.id)}
            >
              <span className="flex justify-between gap-2 text-[12.5px] text-ink-soft">
                <span className="truncate">{w.recipient}</span>
                <span
                  className={
                    w.failed && w.failed !== "taken back"
                      ? "font-semibold text-alarm"
                      : w.sentAt === null && !w.failed
                        ? "text-signal-ink"
                        : ""
                  }
                >
                  {w.failed ??
                    (w.sentAt === null
                      ? "waits"
                      : `sent ${ago(w.sentAt, Math.max(w.sentAt, view.now))}`)}
                </span>
              </span>
              <span className="block font-medium leading-snug">{w.subject}</span>
            </button>
            {letter?.id === w.id && (
              <p className="whitespace-pre-wrap bg-sheet px-4 py-3 text-[13px] [overflow-wrap:anywhere]">
                {letter.body}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** An address: where its mail lands, and whether it takes any. */
function AddressLine({
  address,
  view,
  send,
}: {
  address: MailboxView["addresses"][number];
  view: MailboxView;
  /** Throws a Problem where it is refused. */
  send: (body: AddressRequest) => Promise<void>;
}) {
  return (
    <li className="border-b border-line py-2" data-address={address.name}>
      <p className="font-mono text-[12.5px] [overflow-wrap:anywhere]">
        {address.name}@{view.domain}
      </p>
      <div className="mt-1 flex items-center gap-2 text-[12.5px]">
        <Select
          className="!min-h-7 !w-auto !py-0"
          disabled={!view.mayEdit}
          label={`Team of ${address.name}`}
          value={address.teamId ?? ""}
          options={[{ value: "", label: "whoever triages" }, ...namedOptions(view.teams)]}
          onChange={(next) =>
            void send({
              kind: "change",
              name: address.name,
              teamId: next || null,
            }).catch(tellProblem)
          }
        />
        <span className="flex-1">
          {address.open ? "" : <b className="text-signal-ink">closed</b>}
        </span>
        {view.mayEdit && (
          <>
            <TextButton
              onClick={() =>
                void send({ kind: "change", name: address.name, open: !address.open }).catch(
                  tellProblem,
                )
              }
            >
              {address.open ? "close" : "open"}
            </TextButton>
            <TextButton
              onClick={() =>
                void send({ kind: "remove", name: address.name }).then(
                  () =>
                    tellDone(`${address.name} takes no mail any more.`, () =>
                      send({ kind: "add", name: address.name, teamId: address.teamId }),
                    ),
                  tellProblem,
                )
              }
            >
              take out
            </TextButton>
          </>
        )}
      </div>
    </li>
  );
}
