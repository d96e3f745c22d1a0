"use client";
import { counted } from "@/core/formats/counted";
import { Table } from "@/ui/kit/table";
import { ButtonLink, Button } from "@/ui/kit/button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { AccountRow, AccountsView } from "@/core/people/account";
import { Initials } from "@/ui/kit/initials";
import { Mark } from "@/ui/kit/mark";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Sheet } from "@/ui/kit/sheet";
import { ago } from "@/ui/kit/time";
import { EndPersonForm } from "./end-person";
import { HandedLink, type Handed } from "./handed-link";
import { NewAccount } from "./new-account";
import { peopleContract } from "@/core/people/contract";
import type { accountBody } from "@/core/people/request";
import type z from "zod";
import { queryOf, ask, keyOf } from "@/ui/kit/request";

/**
 * Everybody with an account; administrators make accounts here, and hand over links by which people
 * choose their password.
 */
export function AccountsScreen({ initial }: { initial: AccountsView }) {
  const client = useQueryClient();
  const { data: view } = useQuery({
    ...queryOf(peopleContract.accounts, {}),
    initialData: initial,
  });
  const { accounts: rows, now } = view;
  const [leaving, setLeaving] = useState<AccountRow | null>(null);
  const [handed, setHanded] = useState<(Handed & { personId: string }) | null>(null);
  /** @throws Problem */
  const make = async (body: z.input<typeof accountBody>) => {
    setHanded(await ask(peopleContract.changeAccounts, { body }, { retry: false }));
    await again();
  };
  const again = () => client.invalidateQueries({ queryKey: keyOf(peopleContract.accounts) });
  const bringBack = async ({ id, name }: AccountRow) => {
    await ask(peopleContract.endPerson, { params: { id }, body: { ended: false } });
    tellDone(`${name} can sign in again, and is in no project yet.`);
    await again();
  };
  const named = rows.find((r) => r.id === handed?.personId);
  return (
    <main className="mx-auto flex max-w-[1120px] flex-col gap-5 px-6 py-8">
      <header className="flex items-center gap-3">
        <Mark size={36} />
        <div>
          <h1 className="text-[22px] leading-tight">Accounts</h1>
          <p className="text-ink-soft">
            {standingOfAll(rows)} What they may do is decided in each project.
          </p>
        </div>
        <ButtonLink href="/" look="quiet" className="ml-auto">
          Back to work
        </ButtonLink>
      </header>
      {handed && named && (
        <HandedLink name={named.name} handed={handed} onClose={() => setHanded(null)} />
      )}
      <div className="grid gap-6 lg:grid-cols-[1fr_300px]">
        <Table
          label="People with an account"
          className="w-full"
          rows={rows}
          keyOf={(row) => row.id}
          dataOf={(row) => ({ "data-account": row.email })}
          columns={[
            { head: "Name", cell: (row) => <NameCell row={row} /> },
            {
              head: "Mail address",
              className: "[overflow-wrap:anywhere]",
              cell: (row) => row.email,
            },
            { head: "Signed in", className: "text-ink-soft", cell: (row) => standing(row, now) },
            {
              head: <span className="sr-only">Links</span>,
              className: "!text-right",
              cell: (row) => (
                <span className="flex justify-end gap-1">
                  {row.endedAt === null ? (
                    <>
                      <Button
                        look="quiet"
                        small
                        aria-label={`New link for ${row.name}`}
                        onClick={() =>
                          void make({ kind: "link", personId: row.id }).catch(tellProblem)
                        }
                      >
                        New link
                      </Button>
                      <Button
                        look="quiet"
                        small
                        aria-label={`${row.name} leaves`}
                        onClick={() => setLeaving(row)}
                      >
                        Leaves …
                      </Button>
                    </>
                  ) : (
                    <Button
                      look="quiet"
                      small
                      aria-label={`Bring ${row.name} back`}
                      onClick={() => void bringBack(row).catch(tellProblem)}
                    >
                      Bring back
                    </Button>
                  )}
                </span>
              ),
            },
          ]}
        />
        <NewAccount onMake={(fields) => make({ kind: "make", ...fields })} />
      </div>
      <Sheet
        open={leaving !== null}
        onClose={() => setLeaving(null)}
        title={`${leaving?.name ?? "Somebody"} leaves`}
      >
        {leaving && (
          <EndPersonForm
            person={leaving}
            onDone={() => (setLeaving(null), void again())}
            onLeave={() => setLeaving(null)}
          />
        )}
      </Sheet>
    </main>
  );
}

function NameCell({ row }: { row: AccountRow }) {
  return (
    <span className="flex items-center gap-2">
      <Initials name={row.name} size={26} />
      <span className="leading-tight">
        <b>{row.name}</b>
        <span className="block text-[12.5px] text-ink-soft">
          {[row.calling, row.administrator ? "administrator" : null].filter(Boolean).join(", ")}
        </span>
      </span>
    </span>
  );
}

function standingOfAll(rows: readonly AccountRow[]): string {
  const here = rows.filter((r) => r.endedAt === null);
  const can = here.filter((r) => r.hasPassword).length;
  const cannot = here.length - can;
  const signIn = can === 1 ? "1 person can sign in" : `${can} people can sign in`;
  return cannot === 0
    ? `${signIn}.`
    : `${signIn}, ${cannot === 1 ? "1 has" : `${cannot} have`} not chosen a password yet.`;
}

function standing(
  { endedAt, linkUntil, hasPassword, lastSignedInAt }: AccountRow,
  now: number,
): string {
  if (endedAt !== null) return `left ${ago(endedAt, Math.max(now, endedAt))}`;
  if (linkUntil !== null)
    return `has a link, ${counted(Math.max(1, Math.ceil((linkUntil - now) / 86_400_000)), "day")} left`;
  if (!hasPassword) return "no password yet: the link has ended";
  return lastSignedInAt === null ? "never yet" : ago(lastSignedInAt, Math.max(now, lastSignedInAt));
}
