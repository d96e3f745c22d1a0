"use client";
import { Note } from "@/ui/kit/note";
import { Field, TextInput } from "@/ui/kit/field";
import { Button, TextButton } from "@/ui/kit/button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ago } from "@/ui/kit/time";
import { workflowContract } from "@/core/workflow/contract";
import type { SourceView } from "@/core/workflow/event-source";
import { queryOf, keyOf, ask } from "@/ui/kit/request";
import { addressOf } from "@/core/contract/contract";

const eventsAddress = (source: { id: string }) =>
  addressOf(workflowContract.events, { params: { source: source.id } });

/** Who outside may tell the project what happened: the code host, the pipeline, test runs. */
export function SourceTable({ projectKey }: { projectKey: string }) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data, error } = useQuery({
    ...queryOf(workflowContract.sources, { params }),
  });
  const [name, setName] = useState("");
  const [made, setMade] = useState<{ id: string; name: string; secret: string } | null>(null);
  const [now] = useState(() => Date.now());
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(workflowContract.sources, { params }) });
  const add = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const { id, secret } = await ask(workflowContract.changeSources, {
        params,
        body: { kind: "add", name },
      });
      if (secret !== null) setMade({ id, name, secret });
      setName("");
      await readAgain();
    } catch (problem) {
      tellProblem(problem);
    }
  };
  const askAt = async (source: SourceView, asksAt: string | null) => {
    const store = (at: string | null) =>
      ask(workflowContract.changeSources, {
        params,
        body: { kind: "asks", id: source.id, asksAt: at },
      });
    try {
      await store(asksAt);
      await readAgain();
      const words = asksAt === null ? "takes no requests any more" : `takes requests at ${asksAt}`;
      tellDone(`${source.name} ${words}.`, async () => {
        await store(source.asksAt);
        await readAgain();
      });
    } catch (problem) {
      tellProblem(problem);
    }
  };
  const remove = async (source: SourceView) => {
    try {
      await ask(workflowContract.changeSources, {
        params,
        body: { kind: "remove", id: source.id },
      });
      tellDone(`${source.name} is not heard any more.`);
      await readAgain();
    } catch (problem) {
      tellProblem(problem);
    }
  };
  if (error) return <p className="text-ink-soft">Only leads see where events come from.</p>;
  return (
    <section aria-label="Sources of events" className="flex max-w-[860px] flex-col gap-4">
      <p className="max-w-[70ch] text-[13px] text-ink-soft">
        Moves can happen by themselves when a change is merged, checks pass, a test run fails or
        something is deployed. Whoever knows of it posts it here as a CloudEvent, signed with the
        secret of its source; items are named by their keys.
      </p>
      {data && data.length === 0 && (
        <p>Nobody tells this project anything yet. Add your code host or your pipeline below.</p>
      )}
      <ul>
        {data?.map((s) => (
          <li
            key={s.id}
            className="flex items-center gap-3 border-t border-line py-1.5"
            data-source={s.name}
          >
            <b className="w-48 truncate">{s.name}</b>
            <code className="key min-w-0 flex-1 truncate">{eventsAddress(s)}</code>
            <AsksAt source={s} onStore={(at) => void askAt(s, at)} />
            <span className="text-[13px] text-ink-soft">
              {s.lastHeardAt
                ? `last heard ${ago(s.lastHeardAt, Math.max(now, s.lastHeardAt))}`
                : "not heard yet"}
            </span>
            <Button look="quiet" small onClick={() => void remove(s)}>
              Take it out
            </Button>
          </li>
        ))}
      </ul>
      {made && (
        <Note kind="done">
          <p className="font-semibold">The secret of {made.name}. It is shown this once:</p>
          <code className="key block break-all !text-ink">{made.secret}</code>
          <p className="mt-1 text-[13px]">
            Post to <code className="key">{eventsAddress(made)}</code> with the headers webhook-id,
            webhook-timestamp and webhook-signature; the signature is{" "}
            <code className="key">v1,</code> and the Base64 of HMAC-SHA256 over id, timestamp and
            body, joined by dots.
          </p>
          <Button small className="mt-1" onClick={() => setMade(null)}>
            I have noted it
          </Button>
        </Note>
      )}
      <form onSubmit={(e) => void add(e)} className="flex items-end gap-2">
        <Field label="Another source">
          <TextInput
            className="w-64"
            required
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder="What sends them"
          />
        </Field>
        <Button type="submit" small disabled={!name.trim()}>
          Add it
        </Button>
      </form>
    </section>
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
        className="max-w-[220px] truncate text-[13px]"
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
