"use client";
import { useState, type FormEvent } from "react";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { Note } from "@/ui/kit/note";
import { eventsAddress, SourceRow } from "./source-row";
import { useSources } from "./use-sources";

/** Who outside may tell the project what happened: the code host, the pipeline, test runs. */
export function SourceTable({ projectKey }: { projectKey: string }) {
  const { data, error, acts } = useSources(projectKey);
  const [name, setName] = useState("");
  const [made, setMade] = useState<{ id: string; name: string; secret: string } | null>(null);
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const source = await acts.add(name);
    if (source === null) return;
    setMade({ ...source, name });
    setName("");
  };
  if (error) return <p className="text-ink-soft">Only leads see where events come from.</p>;
  return (
    <section aria-label="Sources of events" className="flex max-w-[1040px] flex-col gap-4">
      <p className="max-w-[70ch] text-[13px] text-ink-soft">
        Moves can happen by themselves when a change is merged, checks pass, a test run fails or
        something is deployed. Whoever knows of it posts it here as a CloudEvent, signed with the
        secret of its source; items are named by their keys.
      </p>
      {data && data.sources.length === 0 && (
        <p>Nobody tells this project anything yet. Add your code host or your pipeline below.</p>
      )}
      <ul>
        {data?.sources.map((source) => (
          <SourceRow
            key={source.id}
            source={source}
            projectKey={projectKey}
            projects={data.projects}
            acts={acts}
          />
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
