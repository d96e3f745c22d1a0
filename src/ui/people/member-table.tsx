"use client";
import { Table } from "@/ui/kit/table";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import Link from "next/link";
import { Fragment, useState } from "react";
import { listWords } from "@/core/formats/list-words";
import type { MembersView } from "@/core/people/account";
import { peopleByTrade, tradesIn, tradesLine, tradesSchema } from "@/core/people/trade";
import { choosing } from "@/core/view/filter";
import { lookPath } from "@/core/view/look-path";
import { CommitText } from "@/ui/kit/commit-input";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { SelectSeveral } from "@/ui/kit/select-several";
import { peopleContract } from "@/core/people/contract";
import { queryOf, keyOf, ask, Problem } from "@/ui/kit/request";

type Member = MembersView["members"][number];
type Role = "lead" | "member" | "observer";

const ROLE_WORDS: Record<Role, string> = {
  lead: "lead: changes the process",
  member: "member: works",
  observer: "observer: reads",
};
const ROLES = Object.entries(ROLE_WORDS).map(([role, label]) => ({ value: role as Role, label }));

/**
 * The people of a project with their roles; a lead changes a role, adds somebody or takes somebody
 * out.
 */
export function MemberTable({ projectKey }: { projectKey: string }) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data: view } = useQuery({
    ...queryOf(peopleContract.members, { params }),
  });
  const set = async (personId: string, role: Role | null, trades?: readonly string[]) =>
    client.setQueryData(
      keyOf(peopleContract.members, { params }),
      await ask(peopleContract.setMember, {
        params,
        body: { personId, role, ...(trades && { trades: [...trades] }) },
      }),
    );
  const give = async (personId: string, role: Role) => {
    try {
      await set(personId, role);
    } catch (error) {
      tellProblem(error);
    }
  };
  const setTrades = (member: Member, line: string): void | false => {
    const read = tradesSchema.safeParse(tradesIn(line));
    if (read.success) return void storeTrades(member, read.data);
    const [issue] = read.error.issues;
    const help = `Separate them by commas, and leave some out of what ${member.name} is good for.`;
    tellProblem(new Problem({ status: 0, code: "invalid", sentence: issue.message, help }));
    return false;
  };
  const storeTrades = async ({ id, name, role, trades }: Member, is: readonly string[]) => {
    try {
      await set(id, role, is);
      tellDone(`What ${name} is good for is stored.`, () => set(id, role, trades));
    } catch (error) {
      tellProblem(error);
    }
  };
  const takeOut = async ({ id, name, role, trades }: Member) => {
    try {
      await set(id, null);
      tellDone(`${name} is not in this project any more.`, () => set(id, role, trades));
    } catch (error) {
      tellProblem(error);
    }
  };
  if (!view) return <p className="text-ink-soft">Reading who works here…</p>;
  return (
    <div className="flex max-w-[1100px] flex-col gap-4">
      {view.mayEdit && <AddPeople others={view.others} add={set} />}
      <Table
        label="People of this project"
        className="w-full"
        rows={view.members}
        keyOf={(member) => member.id}
        dataOf={(member) => ({ "data-person": member.name })}
        columns={[
          { head: "Name", cell: (member) => <b>{member.name}</b> },
          { head: "Calling", className: "text-ink-soft", cell: (member) => member.calling },
          {
            head: "Role",
            cell: (member) =>
              view.mayEdit ? (
                <Select
                  className="!w-auto"
                  label={`Role of ${member.name}`}
                  value={member.role}
                  options={ROLES}
                  onChange={(role) => void give(member.id, role)}
                />
              ) : (
                ROLE_WORDS[member.role]
              ),
          },
          {
            head: "Good for",
            cell: (member) =>
              view.mayEdit ? (
                <CommitText
                  value={tradesLine(member.trades)}
                  label={`What ${member.name} is good for`}
                  placeholder="tester, maps"
                  max={400}
                  disabled={false}
                  onCommit={(line) => setTrades(member, line)}
                />
              ) : (
                tradesLine(member.trades)
              ),
          },
          {
            head: <span className="sr-only">Leaving</span>,
            className: "!text-right",
            cell: (member) =>
              view.mayEdit && (
                <Button
                  look="quiet"
                  small
                  aria-label={`Take ${member.name} out`}
                  onClick={() => void takeOut(member)}
                >
                  Take out
                </Button>
              ),
          },
        ]}
      />
      <Trades projectKey={projectKey} members={view.members} />
    </div>
  );
}

/** What there are people for, each with what those have on the board. */
function Trades({ projectKey, members }: { projectKey: string; members: readonly Member[] }) {
  const trades = peopleByTrade(members);
  if (trades.length === 0) return null;
  return (
    <p aria-label="What people are good for" className="text-[13px] text-ink-soft">
      {"What they have, by what they are good for: "}
      {trades.map(({ trade, ids }, i) => (
        <Fragment key={trade}>
          {i > 0 && " · "}
          <Link className="link" href={flowOf(projectKey, ids)}>
            {trade} {ids.length}
          </Link>
        </Fragment>
      ))}
    </p>
  );
}

/** The board, with only what some people have. */
const flowOf = (projectKey: string, ids: readonly string[]): string =>
  lookPath(projectKey, { filter: choosing({ fact: "assigneeId", values: [...ids] })! });

/** Above the table, so that no button for taking out comes to stand where this one was. */
function AddPeople({
  others,
  add,
}: {
  others: MembersView["others"];
  add: (personId: string, role: Role) => Promise<unknown>;
}) {
  const [chosen, setChosen] = useState<string[]>([]);
  const [role, setRole] = useState<Role>("member");
  const [busy, setBusy] = useState(false);
  if (others.length === 0)
    return (
      <p className="text-[12.5px] text-ink-soft">
        Everybody with an account is here. Administrators make accounts for new people, under their
        name at the top right.
      </p>
    );
  const addAll = async () => {
    setBusy(true);
    const names = others.filter((p) => chosen.includes(p.id)).map((p) => p.name);
    try {
      for (const id of chosen) await add(id, role);
      tellDone(
        `${listWords(names, "and")} ${names.length === 1 ? "is" : "are"} in this project now.`,
      );
      setChosen([]);
    } catch (error) {
      tellProblem(error);
    }
    setBusy(false);
  };
  return (
    <section aria-label="Add people" className="flex flex-wrap items-center gap-2">
      <SelectSeveral
        label="People to add"
        className="!w-72"
        none="Choose whom to add"
        values={chosen}
        options={others.map((p) => ({ value: p.id, label: `${p.name} (${p.email})` }))}
        onChange={setChosen}
      />
      <span className="w-56">
        <Select label="As what" value={role} options={ROLES} onChange={setRole} />
      </span>
      <Button disabled={chosen.length === 0 || busy} onClick={() => void addAll()}>
        {chosen.length > 1 ? `Add ${chosen.length} people` : "Add"}
      </Button>
    </section>
  );
}
