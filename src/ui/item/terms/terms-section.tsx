"use client";
import Link from "next/link";
import { useState } from "react";
import { capital } from "@/core/formats/capital";
import { counted } from "@/core/formats/counted";
import { PLAIN_TERM, TERM_WORDS, type TermKind } from "@/core/item/terms/term";
import type { UsedTerm } from "@/core/item/terms/view";
import { Button } from "@/ui/kit/button";
import { FollowTerm } from "./follow-term";
import { termAddress } from "./term-address";
import { TermForm } from "./term-form";
import { TermName } from "./term-name";
import { useTermEdit, useTerms } from "./use-terms";

const ABOUT: Record<TermKind, string> = {
  label:
    "Words across all else: what an item has in common with others. Anybody can say a new one.",
  part: "What the product is made of, each with somebody who looks after it.",
};

const newTerm = (kind: TermKind): UsedTerm => ({
  ...PLAIN_TERM,
  kind,
  name: "",
  sign: "half",
  hue: "spruce",
  described: false,
  items: 0,
  open: 0,
  followed: false,
  followers: 0,
});

/** The labels, or the parts, of a project: what each means, how often it is said, what becomes of it. */
export function TermsSection({
  projectKey,
  kind,
  people,
}: {
  projectKey: string;
  kind: TermKind;
  people: readonly { id: string; name: string }[];
}) {
  const { terms, rights } = useTerms(projectKey);
  const send = useTermEdit(projectKey);
  const [open, setOpen] = useState<string | null>(null);
  const own = terms.filter((term) => term.kind === kind);
  const there = own.filter(({ endedAt }) => endedAt === null);
  const ended = own.filter(({ endedAt }) => endedAt !== null);
  const row = (term: UsedTerm) => (
    <li key={term.name} className="border-t border-line py-1" data-term={term.name}>
      <TermRow
        projectKey={projectKey}
        term={term}
        owner={people.find(({ id }) => id === term.ownerId)?.name}
        open={open === term.name}
        onOpen={rights.edit ? () => setOpen(open === term.name ? null : term.name) : null}
      />
      {open === term.name && (
        <TermForm
          term={term}
          others={there.filter((other) => other.name !== term.name)}
          people={people}
          send={send}
          onDone={() => setOpen(null)}
        />
      )}
    </li>
  );
  return (
    <section aria-label={capital(TERM_WORDS[kind].several)}>
      <div className="flex items-baseline gap-3">
        <h2 className="text-[15px]">{capital(TERM_WORDS[kind].several)}</h2>
        <p className="flex-1 text-[12.5px] text-ink-soft">{ABOUT[kind]}</p>
        {rights.edit && kind === "label" && !own.some(({ described }) => described) && (
          <Button
            small
            look="quiet"
            onClick={() => void send({ kind: "begin with", of: kind }, "Six labels to begin with.")}
          >
            Begin with a set
          </Button>
        )}
        {rights.edit && (
          <Button small disabled={open === ""} onClick={() => setOpen("")}>
            New {kind}
          </Button>
        )}
      </div>
      {open === "" && (
        <TermForm
          term={newTerm(kind)}
          others={[]}
          people={people}
          send={send}
          onDone={() => setOpen(null)}
        />
      )}
      {there.length === 0 && open !== "" && (
        <p className="py-3 text-ink-soft">
          No item has {kind === "label" ? "a label" : "a part"} yet.
        </p>
      )}
      <ul className="mt-1">{there.map(row)}</ul>
      {ended.length > 0 && (
        <details className="mt-1">
          <summary className="link w-fit text-[13px]">{ended.length} not used any more</summary>
          <ul className="mt-1">{ended.map(row)}</ul>
        </details>
      )}
    </section>
  );
}

function TermRow({
  projectKey,
  term,
  owner,
  open,
  onOpen,
}: {
  projectKey: string;
  term: UsedTerm;
  owner: string | undefined;
  open: boolean;
  onOpen: (() => void) | null;
}) {
  const { kind, name, meaning, items, earlier } = term;
  return (
    <div className="term-line">
      <b className="min-w-0">
        <TermName terms={[term]} kind={kind} name={name} />
      </b>
      <span className="min-w-0 text-[13px] text-ink-soft">
        {meaning || (term.described ? "" : "in use, not described yet")}
        {earlier.length > 0 && ` Before: ${earlier.join(", ")}.`}
      </span>
      <span className="text-[13px] text-ink-soft">{kind === "part" && (owner ?? "no owner")}</span>
      <span className="text-right text-[13px]">
        {items === 0 ? (
          <span className="text-ink-soft">no item</span>
        ) : (
          <Link className="link" href={termAddress(projectKey, { kind, name })}>
            {counted(items, "item")}
          </Link>
        )}
      </span>
      <span className="text-right text-[13px]">
        {term.open > 0 && (
          <Link className="link" href={termAddress(projectKey, { kind, name, open: true })}>
            {term.open} open
          </Link>
        )}
      </span>
      <FollowTerm projectKey={projectKey} term={term} />
      {onOpen ? (
        <Button
          small
          className="justify-self-end"
          aria-expanded={open}
          aria-label={`${open ? "Close" : "Change"} ${name}`}
          onClick={onOpen}
        >
          {open ? "Close" : "Change"}
        </Button>
      ) : (
        <span />
      )}
    </div>
  );
}
