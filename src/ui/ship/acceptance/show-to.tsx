"use client";
import { X } from "lucide-react";
import { useState } from "react";
import type { ShownToBody } from "@/core/ship/acceptance/shown-item";
import { Button } from "@/ui/kit/button";
import { FieldGroup, TextInput } from "@/ui/kit/field";
import { namedOptions, Select } from "@/ui/kit/select";

/** Whom it is shown to: people with an account, and others by name and mail address. */
export function ShowTo({
  to,
  people,
  onChange,
}: {
  to: readonly ShownToBody[];
  people: readonly { id: string; name: string }[];
  onChange: (to: ShownToBody[]) => void;
}) {
  const [name, setName] = useState("");
  const [mail, setMail] = useState("");
  const taken = new Set(to.flatMap((one) => ("personId" in one ? [one.personId] : [])));
  const nameOf = (one: ShownToBody): string =>
    "personId" in one
      ? (people.find(({ id }) => id === one.personId)?.name ?? one.personId)
      : one.name + (one.mail ? `, ${one.mail}` : ", address by hand");
  const add = () => {
    if (name.trim() === "") return;
    onChange([...to, { name: name.trim(), mail: mail.trim() }]);
    setName("");
    setMail("");
  };
  return (
    <FieldGroup label="Whom it is shown to">
      {to.length > 0 && (
        <ul className="flex flex-wrap gap-1.5 font-normal">
          {to.map((one, i) => (
            <li key={nameOf(one)} className="shown-to">
              {nameOf(one)}
              <button
                type="button"
                aria-label={`Not to ${nameOf(one)}`}
                className="inline-flex size-6 items-center justify-center"
                onClick={() => onChange(to.filter((_, at) => at !== i))}
              >
                <X size={13} aria-hidden="true" />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] gap-2 font-normal">
        <TextInput
          aria-label="Name of somebody without an account"
          placeholder="Name of somebody without an account"
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
        />
        <TextInput
          type="email"
          aria-label="Their mail address"
          placeholder="Mail address, or none"
          value={mail}
          maxLength={200}
          onChange={(event) => setMail(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            add();
          }}
        />
        <Button disabled={name.trim() === ""} onClick={add}>
          Add
        </Button>
      </div>
      <div className="font-normal">
        <Select
          label="Somebody of the project"
          placeholder="Or somebody of the project"
          value=""
          options={namedOptions(people.filter(({ id }) => !taken.has(id)))}
          onChange={(personId) => onChange([...to, { personId }])}
        />
      </div>
    </FieldGroup>
  );
}
