"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { peopleContract } from "@/core/people/contract";
import {
  INVITATION_DAYS,
  INVITED_ROLES,
  MOST_USES,
  type Invitations,
  type InvitationRow,
  type InvitedRole,
} from "@/core/people/invitation";
import { Button } from "@/ui/kit/button";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, queryOf } from "@/ui/kit/request";
import { Select, wordOptions } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { Table } from "@/ui/kit/table";
import { HandedLink } from "./handed-link";

type Links = Invitations["links"];

/** Invites people to a project, by mail or with a link for several, and shows who was invited. */
export function InvitationsSection({ projectKey }: { projectKey: string }) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data: view } = useQuery(queryOf(peopleContract.invitations, { params }));
  const [asking, setAsking] = useState<"mail" | "link" | null>(null);
  const [links, setLinks] = useState<Links>([]);
  if (!view) return null;
  const take = ({ links: made, ...next }: Invitations) => {
    client.setQueryData(keyOf(peopleContract.invitations, { params }), next);
    setLinks(made);
  };
  const revoke = async ({ id }: InvitationRow) => {
    const body = { kind: "revoke", id } as const;
    take(await ask(peopleContract.invite, { params, body }));
    tellDone("The invitation lets nobody in any more.");
  };
  return (
    <section aria-label="Invitations" className="flex max-w-[1100px] flex-col gap-3">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-[15px]">Invitations</h2>
        <Button small onClick={() => setAsking("mail")}>
          Invite by mail
        </Button>
        <Button small onClick={() => setAsking("link")}>
          A link for several
        </Button>
      </div>
      {links.map((link) => (
        <HandedLink
          key={link.token}
          name={link.email ?? "whoever is to come"}
          path="join"
          does="it lets them in, and"
          handed={link}
          onClose={() => setLinks(links.filter((other) => other !== link))}
        />
      ))}
      {view.invitations.length === 0 ? (
        <p className="text-[13px] text-ink-soft">
          Nobody was invited yet. Whoever comes by an invitation makes an account of their own.
        </p>
      ) : (
        <InvitationTable
          rows={view.invitations}
          onRevoke={(row) => void revoke(row).catch(tellProblem)}
        />
      )}
      <Sheet
        open={asking !== null}
        onClose={() => setAsking(null)}
        title={asking === "link" ? "A link for several" : "Invite by mail"}
      >
        {asking && (
          <InviteForm
            key={asking}
            kind={asking}
            mailGoesOut={view.mailGoesOut}
            onSend={async (body) => {
              take(await ask(peopleContract.invite, { params, body }, { retry: false }));
              if (body.kind === "mail" && view.mailGoesOut)
                tellDone(`${counted(body.emails.length, "letter")} on the way.`);
              setAsking(null);
            }}
            onLeave={() => setAsking(null)}
          />
        )}
      </Sheet>
    </section>
  );
}

const day = (at: number) =>
  new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "short" });

function InvitationTable({
  rows,
  onRevoke,
}: {
  rows: readonly InvitationRow[];
  onRevoke: (row: InvitationRow) => void;
}) {
  const nameOf = ({ email }: InvitationRow) => email ?? "a link for several";
  return (
    <Table
      label="Invitations"
      className="w-full"
      rows={rows}
      keyOf={(row) => row.id}
      dataOf={(row) => ({ "data-standing": row.standing })}
      columns={[
        { head: "To", className: "[overflow-wrap:anywhere]", cell: nameOf },
        { head: "As", cell: (row) => row.role },
        {
          head: "From",
          className: "text-ink-soft",
          cell: (row) => `${row.by}, ${day(row.madeAt)}`,
        },
        { head: "Came", cell: (row) => `${row.uses} of ${row.mostUses}` },
        {
          head: "Stands",
          cell: (row) => (row.standing === "open" ? `open until ${day(row.until)}` : row.standing),
        },
        {
          head: <span className="sr-only">Revoking</span>,
          className: "!text-right",
          cell: (row) =>
            row.standing === "open" && (
              <Button
                look="quiet"
                small
                aria-label={`Revoke the invitation of ${nameOf(row)}`}
                onClick={() => onRevoke(row)}
              >
                Revoke
              </Button>
            ),
        },
      ]}
    />
  );
}

type Sent =
  | { kind: "mail"; emails: string[]; role: InvitedRole; days: (typeof INVITATION_DAYS)[number] }
  | { kind: "link"; uses: number; role: InvitedRole; days: (typeof INVITATION_DAYS)[number] };

/** The addresses in a text, whatever stands between them. */
const addressesIn = (text: string): string[] => text.split(/[\s,;]+/).filter((part) => part !== "");

function InviteForm({
  kind,
  mailGoesOut,
  onSend,
  onLeave,
}: {
  kind: "mail" | "link";
  mailGoesOut: boolean;
  /** @throws Problem */
  onSend: (body: Sent) => Promise<void>;
  onLeave: () => void;
}) {
  const [text, setText] = useState("");
  const [uses, setUses] = useState(10);
  const [role, setRole] = useState<InvitedRole>("member");
  const [days, setDays] = useState<(typeof INVITATION_DAYS)[number]>(7);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const send = async () => {
    setBusy(true);
    try {
      await onSend(
        kind === "mail"
          ? { kind, emails: addressesIn(text), role, days }
          : { kind, uses, role, days },
      );
    } catch (error) {
      const { sentence, help, errors } = problemOf(error);
      setProblem(errors[0]?.message ?? `${sentence} ${help}`);
      setBusy(false);
    }
  };
  return (
    <form
      aria-label="Invite people"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      {kind === "mail" ? (
        <Field label="Mail addresses, one a line">
          <TextArea
            required
            rows={4}
            maxLength={6_000}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </Field>
      ) : (
        <Field label="So many people can use it">
          <TextInput
            type="number"
            required
            min={1}
            max={MOST_USES}
            value={uses}
            onChange={(event) => setUses(Number(event.target.value))}
          />
        </Field>
      )}
      <Field label="As what">
        <Select value={role} options={wordOptions(INVITED_ROLES)} onChange={setRole} />
      </Field>
      <Field label="It ends in">
        <Select
          value={String(days)}
          options={INVITATION_DAYS.map((n) => ({ value: String(n), label: counted(n, "day") }))}
          onChange={(next) => setDays(Number(next) as (typeof INVITATION_DAYS)[number])}
        />
      </Field>
      {kind === "mail" && !mailGoesOut && (
        <p className="text-[13px] text-ink-soft">
          No mail leaves this installation: you get a link for each address, to hand over.
        </p>
      )}
      <FormFooter
        send={kind === "mail" ? "Invite them" : "Make the link"}
        busy={busy}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}
