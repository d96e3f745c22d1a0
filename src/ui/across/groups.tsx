"use client";
import { v7 as newId } from "uuid";
import { useState, type FormEvent } from "react";
import type { AcrossPlaces, OfferedPlace } from "@/core/across/contract";
import { readAcrossKey } from "@/core/across/place";
import { Button, TextButton } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { SelectSeveral } from "@/ui/kit/select-several";
import { Sheet } from "@/ui/kit/sheet";
import type { AcrossSend } from "./use-across";

/** Makes groups of projects, renames them, says what is in them, and puts them away. */
export function Groups({ across, send }: { across: AcrossPlaces; send: AcrossSend }) {
  const [open, setOpen] = useState(false);
  const [made, setMade] = useState(0);
  const groups = across.places.filter(({ kind }) => kind === "group");
  return (
    <>
      <Button small look="quiet" onClick={() => setOpen(true)}>
        Groups…
      </Button>
      <Sheet open={open} onClose={() => setOpen(false)} title="Groups of projects">
        <p className="mb-3 text-[13px] text-ink-soft">
          A group is a place of its own above its projects. Nobody sees more by it: each sees those
          of its projects that they may see anyway.
        </p>
        <ul className="flex flex-col gap-3">
          {groups.map((group) => (
            <li key={`${group.key} ${group.name} ${group.projectIds.join()}`}>
              <GroupForm group={group} across={across} send={send} />
            </li>
          ))}
        </ul>
        <div className="mt-3 border-t border-line pt-3">
          <GroupForm
            key={made}
            group={null}
            across={across}
            send={async (...asked) => {
              const done = await send(...asked);
              if (done) setMade((n) => n + 1);
              return done;
            }}
          />
        </div>
        {across.away.length > 0 && (
          <p className="mt-3 text-[13px] text-ink-soft">
            Put away:{" "}
            {across.away.map(({ id, name }) => (
              <span key={id} className="mr-3">
                {name}{" "}
                <TextButton
                  onClick={() => void send({ kind: "bring back", id }, `${name} is back.`)}
                >
                  bring back
                </TextButton>
              </span>
            ))}
          </p>
        )}
      </Sheet>
    </>
  );
}

const idOf = ({ key }: OfferedPlace): string => {
  const place = readAcrossKey(key);
  return place?.kind === "group" ? place.id : "";
};

/** One group, or the one that is about to be made. */
function GroupForm({
  group,
  across,
  send,
}: {
  group: OfferedPlace | null;
  across: AcrossPlaces;
  send: AcrossSend;
}) {
  const [name, setName] = useState(group?.name ?? "");
  const [projectIds, setProjectIds] = useState<string[]>(group?.projectIds ?? []);
  const locked = group !== null && !group.mayChange;
  const changed =
    name.trim() !== (group?.name ?? "") || projectIds.join() !== (group?.projectIds ?? []).join();
  const store = async (event: FormEvent) => {
    event.preventDefault();
    const said = { name: name.trim(), projectIds };
    if (group === null) {
      await send({ kind: "make", id: newId(), ...said }, `${said.name} is a place of its own now.`);
      return;
    }
    const id = idOf(group);
    const before = { name: group.name, projectIds: group.projectIds };
    const undo = { kind: "change", id, ...before } as const;
    await send({ kind: "change", id, ...said }, `${said.name} is changed.`, undo);
  };
  const putAway = (of: OfferedPlace) => {
    const id = idOf(of);
    const undo = { kind: "bring back", id } as const;
    return send({ kind: "put away", id }, `${of.name} is put away.`, undo);
  };
  return (
    <form onSubmit={(event) => void store(event)} className="flex flex-wrap items-end gap-2">
      <Field label={group === null ? "New group" : "Name"}>
        <TextInput
          required
          maxLength={40}
          disabled={locked}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      <SelectSeveral
        label="Projects"
        none="choose projects"
        values={projectIds}
        options={across.projects.map(({ id, name: label }) => ({ value: id, label }))}
        onChange={locked ? () => {} : setProjectIds}
      />
      <span className="flex-1" />
      {group && !locked && (
        <Button small look="quiet" onClick={() => void putAway(group)}>
          Put away
        </Button>
      )}
      {!locked && (
        <Button small type="submit" disabled={!changed || projectIds.length === 0}>
          {group === null ? "Make the group" : "Change it"}
        </Button>
      )}
    </form>
  );
}
