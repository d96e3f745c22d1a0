"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { testingContract } from "@/core/ship/testing/contract";
import { TextButton } from "@/ui/kit/button";
import { Combobox } from "@/ui/kit/combobox";
import { queryOf } from "@/ui/kit/request";

const MOST_FOUND = 30;

/** Takes a case that is there already. */
export function CaseChoice({
  projectKey,
  taken,
  onChoose,
}: {
  projectKey: string;
  taken: readonly string[];
  onChoose: (of: { id: string; key: string }) => void;
}) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <TextButton className="text-[13px]" onClick={() => setOpen(true)}>
        Take one that is there
      </TextButton>
    );
  return (
    <Found
      projectKey={projectKey}
      taken={taken}
      onChoose={(one) => {
        setOpen(false);
        onChoose(one);
      }}
    />
  );
}

function Found({
  projectKey,
  taken,
  onChoose,
}: {
  projectKey: string;
  taken: readonly string[];
  onChoose: (of: { id: string; key: string }) => void;
}) {
  const [text, setText] = useState("");
  const { data } = useQuery(queryOf(testingContract.cases, { params: { key: projectKey } }));
  const wanted = text.trim().toLowerCase();
  const found = (data?.cases ?? [])
    .filter(({ id, putAwayAt }) => putAwayAt === null && !taken.includes(id))
    .filter(({ key, title, part }) =>
      `${key} ${title} ${part ?? ""}`.toLowerCase().includes(wanted),
    )
    .slice(0, MOST_FOUND);
  return (
    <Combobox
      label="A case that is there"
      hint="Search by key, words or part"
      value=""
      found={found.map(({ id, key, title }) => ({ value: id, label: `${key} ${title}` }))}
      onSearch={setText}
      onChange={(id) => onChoose(found.find((one) => one.id === id)!)}
    />
  );
}
