"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import Link from "next/link";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { ANSWERED_WORDS } from "@/core/ship/acceptance/answer";
import type { ItemHandle } from "@/ui/item/use-item";
import { keyOf, queryOf } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { AnsweredMark } from "./answered-mark";
import { SaidList } from "./said-list";

/** Whom an item was shown to, and what they said of it. */
export function ItemAcceptanceSection({ handle }: { handle: ItemHandle }) {
  const { key, project, rights, withdrawn } = handle.view;
  const client = useQueryClient();
  const params = { key };
  const { data: view } = useQuery(queryOf(acceptanceContract.ofItem, { params }));
  useReadAgain(
    ({ kind }) => ["tests", "item", "code", "resync"].includes(kind),
    () => client.invalidateQueries({ queryKey: keyOf(acceptanceContract.ofItem, { params }) }),
  );
  const mayEdit = rights.edit && withdrawn === null;
  const to = (view?.to ?? []).filter(
    ({ closed, said }) => closed !== "taken back" || said.length > 0,
  );
  if (!view || (to.length === 0 && !mayEdit)) return null;
  const { asked, given } = view.acceptance;
  const place = `/p/${project.key}/ship/acceptance`;
  return (
    <section aria-label="Acceptance">
      <h3 className="mb-1 flex items-baseline gap-2 text-[13px]">
        Acceptance
        {asked > 0 && (
          <span className="font-normal text-ink-soft">
            accepted by {given} of {asked}
          </span>
        )}
      </h3>
      <ul className="flex flex-col gap-2">
        {to.map(({ id, name, answered, closed, said, askedBy, askedAt }) => (
          <li key={id}>
            <p className="flex flex-wrap items-center gap-1.5 text-[13px]">
              <AnsweredMark of={answered} />
              <b>{name}</b>
              <span className={answered === "missing" ? "text-alarm" : "text-ink-soft"}>
                {closed === null ? ANSWERED_WORDS[answered] : CLOSED_WORDS[closed]}
              </span>
              <span className="text-ink-soft">
                · asked by {askedBy} {ago(askedAt, view.now)}
              </span>
            </p>
            {said.length > 0 && (
              <div className="mt-1 pl-5">
                <SaidList said={said} zone={project.zone} now={view.now} />
              </div>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-1 flex gap-4 text-[13px]">
        {mayEdit && (
          <Link className="link" href={`${place}?show=${key}`}>
            Show it to somebody …
          </Link>
        )}
        {to.length > 0 && (
          <Link className="link" href={place}>
            All that is shown
          </Link>
        )}
      </p>
    </section>
  );
}

const CLOSED_WORDS = {
  "taken back": "taken back",
  over: "its time is over, without a word",
} as const;
