"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import Link from "next/link";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { itemContract } from "@/core/item/contract";
import { LATELY_DAYS, type PartItems, type PartView } from "@/core/item/terms/part-view";
import { FollowTerm } from "@/ui/item/terms/follow-term";
import { termAddress } from "@/ui/item/terms/term-address";
import { TermName } from "@/ui/item/terms/term-name";
import { useTerms, useTermsFollowed } from "@/ui/item/terms/use-terms";
import { ButtonLink, TextButton } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { usePanel } from "@/ui/kit/panel-context";
import { keyOf, queryOf } from "@/ui/kit/request";
import { exact } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** The parts of the product, and what is open about the one that is chosen. */
export function PartsScreen({
  projectKey,
  wanted,
  initial,
}: {
  projectKey: string;
  /** The part that the address names, or the first one; null where there is none. */
  wanted: string | null;
  initial: PartView | null;
}) {
  const client = useQueryClient();
  const { terms, rights } = useTerms(projectKey);
  useTermsFollowed(projectKey);
  const [chosen, setChosen] = useState(wanted);
  const { data: view } = useQuery({
    ...queryOf(itemContract.part, { params: { key: projectKey }, query: { name: chosen ?? "-" } }),
    enabled: chosen !== null && (initial !== null || chosen !== wanted),
    initialData: chosen === wanted ? (initial ?? undefined) : undefined,
    placeholderData: keepPreviousData,
  });
  useReadAgain(
    ({ kind }) => kind !== "visit" && kind !== "draft",
    () => client.invalidateQueries({ queryKey: keyOf(itemContract.part) }),
  );
  const parts = terms.filter(({ kind }) => kind === "part");
  const there = parts.filter(({ endedAt }) => endedAt === null);
  const choose = (name: string) => {
    setChosen(name);
    window.history.replaceState(null, "", `?${new URLSearchParams({ part: name })}`);
  };
  if (parts.length === 0)
    return (
      <div className="flex h-full flex-col items-center justify-center gap-3 text-center">
        <h1 className="text-[19px]">Parts of the product</h1>
        <p className="max-w-[460px] text-ink-soft">
          What the product is made of, each part with somebody who looks after it, stands here with
          what is open about it.
          {rights.edit
            ? " Make the first one in Design."
            : " A lead makes the first one in Design."}
        </p>
        <ButtonLink href={`/p/${projectKey}/design?place=terms`}>Labels and parts</ButtonLink>
      </div>
    );
  return (
    <div className="flex h-full">
      <nav
        aria-label="Parts of the product"
        className="w-[230px] shrink-0 overflow-y-auto border-r border-line px-2 py-3"
      >
        <h1 className="mb-1 px-2 text-[15px]">Parts of the product</h1>
        {there.map(({ name, open }) => (
          <button
            key={name}
            type="button"
            aria-current={name === chosen ? "page" : undefined}
            className="part-choice"
            onClick={() => choose(name)}
          >
            <span className="min-w-0 flex-1 truncate text-left">{name}</span>
            <span className="figures text-ink-soft">{open}</span>
          </button>
        ))}
        {rights.edit && (
          <Link
            className="link mt-2 block px-2 text-[13px]"
            href={`/p/${projectKey}/design?place=terms`}
          >
            Change the parts
          </Link>
        )}
      </nav>
      <div className="min-w-0 flex-1 overflow-y-auto px-5 py-4">
        {view ? (
          <PartPage view={view} />
        ) : chosen !== null && !parts.some(({ name }) => name === chosen) ? (
          <Note kind="look">
            There is no part “{chosen}” any more. Choose another one at the left.
          </Note>
        ) : (
          <p className="text-ink-soft">Reading what there is about it…</p>
        )}
      </div>
    </div>
  );
}

function PartPage({ view }: { view: PartView }) {
  const { project, part, owner, open, came, finished, reports } = view;
  const { key } = project;
  const { name } = part;
  return (
    <>
      <header className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="text-[19px]">
          <TermName terms={[part]} kind="part" name={name} />
        </h2>
        <p className="text-ink-soft">
          {owner ? `${owner} looks after it` : "nobody looks after it yet"}
          {part.endedAt !== null && " · put away"}
        </p>
        <span className="flex-1" />
        <FollowTerm projectKey={key} term={part} />
        <ButtonLink small look="quiet" href={termAddress(key, { kind: "part", name })}>
          {counted(part.items, "item")} in a table
        </ButtonLink>
      </header>
      {part.meaning && <p className="mt-1 max-w-[760px]">{part.meaning}</p>}
      <div className="mt-4 grid gap-x-8 gap-y-6 min-[1100px]:grid-cols-2">
        <Lines title="Open" of={open} empty="Nothing is open about it." />
        <Lines
          title={`Made in the last ${LATELY_DAYS} days`}
          of={came}
          empty="Nothing new came up lately."
        />
        {reports.length > 0 && <Reports view={view} />}
        <Lines
          title={`Finished in the last ${LATELY_DAYS} days`}
          of={finished}
          empty="Nothing was finished lately."
        />
      </div>
    </>
  );
}

function Lines({ title, of, empty }: { title: string; of: PartItems; empty: string }) {
  const { openItem } = usePanel();
  const { items, count } = of;
  return (
    <section aria-label={title}>
      <h3 className="mb-1 flex items-baseline gap-2 text-[14px]">
        {title} <span className="figures text-ink-soft">{count}</span>
      </h3>
      {items.length === 0 && <p className="text-ink-soft">{empty}</p>}
      <ul>
        {items.map(({ id, key, title: words, typeId, stateName, assignee }) => (
          <li key={id} className="flex items-center gap-2 border-t border-line py-1">
            <TypeGlyph typeId={typeId} />
            <TextButton className="key !text-accent" onClick={() => openItem(key)}>
              {key}
            </TextButton>
            <span className="min-w-0 flex-1 truncate" title={words}>
              {words}
            </span>
            <span className="shrink-0 text-[12.5px] text-ink-soft">
              {assignee === null ? stateName : `${stateName} · ${assignee}`}
            </span>
          </li>
        ))}
      </ul>
      {count > items.length && (
        <p className="border-t border-line py-1 text-[12.5px] text-ink-soft">
          and {count - items.length} more: all of them stand in the table
        </p>
      )}
    </section>
  );
}

function Reports({ view: { project, reports } }: { view: PartView }) {
  return (
    <section aria-label="Reports that seem to be about it">
      <h3 className="mb-1 flex items-baseline gap-2 text-[14px]">
        Reports that seem to be about it{" "}
        <span className="figures text-ink-soft">{reports.length}</span>
      </h3>
      <ul>
        {reports.map(({ id, reference, title, receivedAt, why }) => (
          <li key={id} className="flex items-center gap-2 border-t border-line py-1">
            <Link
              className="link key shrink-0"
              href={`/p/${project.key}/intake?report=${reference}`}
              title={exact(receivedAt, project.zone)}
            >
              {reference}
            </Link>
            <span className="min-w-0 flex-1 truncate" title={title}>
              {title}
            </span>
            <span className="shrink-0 text-[12.5px] text-ink-soft">{why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
