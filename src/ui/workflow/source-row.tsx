"use client";
import { useState } from "react";
import { addressOf } from "@/core/contract/contract";
import { workflowContract } from "@/core/workflow/contract";
import type { NamedProject, SourceView } from "@/core/workflow/event-source";
import { Button, TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { ago } from "@/ui/kit/time";
import type { SourceActs } from "./use-sources";

export const eventsAddress = (source: { id: string }) =>
  addressOf(workflowContract.events, { params: { source: source.id } });

/** A source: where it posts, for whom it speaks, where it takes requests, when it was heard. */
export function SourceRow({
  source,
  projectKey,
  projects,
  acts,
}: {
  source: SourceView;
  projectKey: string;
  projects: readonly NamedProject[];
  acts: SourceActs;
}) {
  const [now] = useState(() => Date.now());
  const { name, of, lastHeardAt } = source;
  const own = of.key === projectKey;
  return (
    <li className="flex items-center gap-3 border-t border-line py-1.5" data-source={name}>
      <b className="w-40 truncate" title={name}>
        {name}
      </b>
      <code className="key min-w-0 flex-1 truncate" title={eventsAddress(source)}>
        {eventsAddress(source)}
      </code>
      {own ? (
        <>
          <SpeaksFor
            source={source}
            projects={projects}
            onAttach={(key, on) => void acts.attach(source, key, on)}
          />
          <AsksAt source={source} onStore={(at) => void acts.askAt(source, at)} />
        </>
      ) : (
        <span className="text-[13px] text-ink-soft">of {of.name}</span>
      )}
      <span className="whitespace-nowrap text-[13px] text-ink-soft">
        {lastHeardAt ? `heard ${ago(lastHeardAt, Math.max(now, lastHeardAt))}` : "not heard yet"}
      </span>
      {own && (
        <Button look="quiet" small onClick={() => void acts.remove(source)}>
          Take it out
        </Button>
      )}
    </li>
  );
}

/** For which further projects a source speaks; a lead of those too adds one, or ends it. */
function SpeaksFor({
  source: { name, of, alsoFor },
  projects,
  onAttach,
}: {
  source: SourceView;
  projects: readonly NamedProject[];
  onAttach: (projectKey: string, on: boolean) => void;
}) {
  const isAttached = (key: string) => alsoFor.some((one) => one.key === key);
  const others = projects.filter(({ key }) => key !== of.key && !isAttached(key));
  const mayEnd = (key: string) => projects.some((one) => one.key === key);
  return (
    <span className="flex flex-wrap items-center gap-1 text-[13px]">
      {alsoFor.map(({ key }) => (
        <span key={key} className="chip">
          for <b className="key">{key}</b>
          {mayEnd(key) && (
            <TextButton
              aria-label={`${name} speaks for ${key} no more`}
              onClick={() => onAttach(key, false)}
            >
              ✕
            </TextButton>
          )}
        </span>
      ))}
      {others.length > 0 && (
        <Select
          plain
          className="!w-[112px]"
          label={`${name} speaks for another project too`}
          placeholder="also for …"
          value=""
          options={others.map(({ key, name: called }) => ({ value: key, label: called }))}
          onChange={(key) => onAttach(key, true)}
        />
      )}
    </span>
  );
}

/** Where a source takes requests: the pipeline that deploys what is asked for. */
function AsksAt({
  source,
  onStore,
}: {
  source: SourceView;
  onStore: (asksAt: string | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null)
    return (
      <TextButton
        className="w-[130px] truncate text-left text-[13px]"
        onClick={() => setTyped(source.asksAt ?? "")}
      >
        {source.asksAt ? `asked at ${source.asksAt}` : "takes no requests"}
      </TextButton>
    );
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        onStore(typed.trim() || null);
        setTyped(null);
      }}
    >
      <TextInput
        autoFocus
        className="!w-[220px]"
        aria-label={`Where ${source.name} takes requests`}
        placeholder="https://pipeline.example/ask"
        maxLength={300}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && setTyped(null)}
      />
      <Button type="submit" small>
        Store it
      </Button>
    </form>
  );
}
