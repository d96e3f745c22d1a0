"use client";
import { useRouter } from "next/navigation";
import { useState, type FormEvent } from "react";
import type { Visibility } from "@/core/people/authorise";
import type { DesignView } from "@/core/workflow/design-view";
import { Button } from "@/ui/kit/button";
import { Choice } from "@/ui/kit/check";
import { Field, FieldGroup, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { Note } from "@/ui/kit/note";
import { Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import type { DesignRequest } from "./use-design-request";

const SEES: Record<Visibility, string> = {
  everyone: "Everybody with an account may look",
  members: "Only its people see that it is there",
};

/** What a project is called, who sees it, in which zone its days are counted, what it expects. */
export function ProjectSettings({ view, send }: { view: DesignView; send: DesignRequest }) {
  const { project, mayEdit } = view;
  const router = useRouter();
  const [name, setName] = useState(project.name);
  const [zone, setZone] = useState(project.zone);
  const [visibility, setVisibility] = useState(project.visibility);
  const [days, setDays] = useState(String(project.expectation.days));
  const [share, setShare] = useState(String(Math.round(project.expectation.share * 100)));
  const [asking, setAsking] = useState(false);
  const bringBack = async () => {
    await send("putAway", { away: false });
    router.refresh();
  };
  const expectation = { days: Number(days), share: Number(share) / 100 };
  const changed =
    name.trim() !== project.name ||
    zone !== project.zone ||
    visibility !== project.visibility ||
    expectation.days !== project.expectation.days ||
    Math.abs(expectation.share - project.expectation.share) > 0.001;
  const store = async (event: FormEvent) => {
    event.preventDefault();
    const before = { ...project };
    const stored = await send(
      "project",
      { name, zone, visibility, expectation },
      "The project is changed.",
      async () => {
        const { name, zone, visibility, expectation } = before;
        await send("project", { name, zone, visibility, expectation });
        router.refresh();
      },
    );
    if (stored) router.refresh();
  };
  return (
    <form
      aria-label="The project"
      className="flex max-w-[560px] flex-col gap-4"
      onSubmit={(event) => void store(event)}
    >
      <Field
        label="Name"
        hint={`Its key stays ${project.key}: it stands in the keys of its items.`}
      >
        <TextInput
          required
          maxLength={60}
          disabled={!mayEdit}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      <FieldGroup label="Who sees it">
        {(["everyone", "members"] as const).map((each) => (
          <Choice
            key={each}
            name="visibility"
            className="font-normal"
            disabled={!mayEdit}
            checked={visibility === each}
            onChange={() => setVisibility(each)}
          >
            {SEES[each]}
          </Choice>
        ))}
      </FieldGroup>
      {visibility === "everyone" && project.visibility === "members" && (
        <Note kind="look">
          Everybody with an account can read its items, talk, reports and figures then; restricted
          items stay hidden.
        </Note>
      )}
      <Field
        label="Time zone"
        hint="Days are counted in it from now on; earlier ones stay as they were."
      >
        <Select disabled={!mayEdit} value={zone} options={zonesWith(zone)} onChange={setZone} />
      </Field>
      <ExpectationFields
        disabled={!mayEdit}
        share={share}
        days={days}
        onShare={setShare}
        onDays={setDays}
      />
      {mayEdit && (
        <div className="flex items-center gap-3">
          <Button type="submit" look="accent" disabled={!changed}>
            Store
          </Button>
          <Button look="danger" className="ml-auto" onClick={() => setAsking(true)}>
            Put it away …
          </Button>
        </div>
      )}
      <Sheet open={asking} onClose={() => setAsking(false)} title={`Put “${project.name}” away`}>
        <PutAway
          onPutAway={async () => {
            const done = await send(
              "putAway",
              { away: true },
              `${project.name} is put away.`,
              bringBack,
            );
            if (!done) return;
            setAsking(false);
            router.refresh();
          }}
          onLeave={() => setAsking(false)}
        />
      </Sheet>
    </form>
  );
}

const zonesWith = (zone: string) =>
  [...new Set([zone, "UTC", ...Intl.supportedValuesOf("timeZone")])].map((one) => ({
    value: one,
    label: one,
  }));

/** What it means that a project is put away, before it is done. */
function PutAway({ onPutAway, onLeave }: { onPutAway: () => Promise<void>; onLeave: () => void }) {
  return (
    <div className="flex flex-col gap-3">
      <p className="text-[13px]">
        It leaves every list, Today and the boards across projects. Whoever could read it still can,
        by its address and in the menu of projects; nothing of it changes, and its forms and mail
        addresses take nothing in. It can be brought back with all that is in it.
      </p>
      <FormFooter send="Put it away" onSend={() => void onPutAway()} onLeave={onLeave} />
    </div>
  );
}

/** Which share of its items is to be finished within how many days. */
function ExpectationFields({
  disabled,
  share,
  days,
  onShare,
  onDays,
}: {
  disabled: boolean;
  share: string;
  days: string;
  onShare: (share: string) => void;
  onDays: (days: string) => void;
}) {
  return (
    <FieldGroup label="What it expects of its items">
      <span className="flex items-center gap-2 font-normal">
        <TextInput
          aria-label="Share of items, in per cent"
          type="number"
          min={50}
          max={99}
          required
          className="!w-[72px]"
          disabled={disabled}
          value={share}
          onChange={(event) => onShare(event.target.value)}
        />
        % are finished within
        <TextInput
          aria-label="Days"
          type="number"
          min={1}
          max={365}
          required
          className="!w-[72px]"
          disabled={disabled}
          value={days}
          onChange={(event) => onDays(event.target.value)}
        />
        days
      </span>
    </FieldGroup>
  );
}
