"use client";
import { Table } from "@/ui/kit/table";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { listWords } from "@/core/formats/list-words";
import type { MembersView } from "@/core/people/account";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { SelectSeveral } from "@/ui/kit/select-several";
import { peopleContract } from "@/core/people/contract";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

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
  const set = async (personId: string, role: Role | null) =>
    client.setQueryData(
      keyOf(peopleContract.members, { params }),
      await ask(peopleContract.setMember, { params, body: { personId, role } }),
    );
  const give = async (personId: string, role: Role) => {
    try {
      await set(personId, role);
    } catch (error) {
      tellProblem(error);
    }
  };
  const takeOut = async ({ id, name, role }: MembersView["members"][number]) => {
    try {
      await set(id, null);
      tellDone(`${name} is not in this project any more.`, () => set(id, role));
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
    </div>
  );
}

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
