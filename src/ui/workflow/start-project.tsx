"use client";
import { counted } from "@/core/formats/counted";
import { FormProblem } from "@/ui/kit/note";
import { Choice } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { ButtonLink, Button } from "@/ui/kit/button";
import { useRouter } from "next/navigation";
import { useState, type FormEvent } from "react";
import { fromTemplate } from "@/core/workflow/template";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { Mark } from "@/ui/kit/mark";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { RailMap } from "./rail-map";
import { workflowContract } from "@/core/workflow/contract";

/** The first letters of a name's words as a key: "Lift repairs" → LR, "Lifts" → LIFT. */
function keyOf(name: string): string {
  const words = name
    .toUpperCase()
    .replace(/[^A-Z0-9 ]/g, "")
    .split(" ")
    .filter(Boolean);
  const key = words.length > 1 ? words.map((w) => w[0]).join("") : (words[0] ?? "").slice(0, 4);
  return key.replace(/^[0-9]+/, "").slice(0, 10);
}

const PREVIEWS = PROJECT_TEMPLATES.map((template) => {
  let n = 0;
  return { template, workflow: fromTemplate(template, () => `preview-${n++}`) };
});

/** A new project: a name, and the process to start from. Everything can be changed afterwards. */
export function StartProject({ name: personName, taken }: { name: string; taken: string[] }) {
  const router = useRouter();
  const [name, setName] = useState("");
  const [ownKey, setOwnKey] = useState<string | null>(null);
  const [template, setTemplate] = useState(PREVIEWS[0].template.name);
  const [visibility, setVisibility] = useState<"everyone" | "members">("everyone");
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const key = ownKey ?? keyOf(name);
  const chosen = PREVIEWS.find((p) => p.template.name === template)!;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble(null);
    try {
      const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
      const made = await ask(workflowContract.startProject, {
        body: { name, key, template, visibility, zone },
      });
      router.push(`/p/${made.key}/design`);
    } catch (error) {
      setTrouble(problemOf(error));
      setBusy(false);
    }
  };
  return (
    <main className="mx-auto flex min-h-dvh max-w-[1120px] flex-col gap-6 px-6 py-8">
      <header className="flex items-center gap-3">
        <Mark size={36} />
        <div>
          <h1 className="text-[22px] leading-tight">Start a project</h1>
          <p className="text-ink-soft">
            {taken.length > 0
              ? "You lead it, and choose who joins."
              : `Welcome, ${personName.split(" ")[0]}. Give it a name and choose how its work moves; you lead it.`}
          </p>
        </div>
        {taken.length > 0 && (
          <ButtonLink href="/" look="quiet" className="ml-auto">
            Back
          </ButtonLink>
        )}
      </header>
      <form onSubmit={submit} className="grid gap-6 md:grid-cols-[300px_minmax(0,1fr)]">
        <div className="flex flex-col gap-3">
          <Field label="Name">
            <TextInput
              name="name"
              required
              maxLength={60}
              autoFocus
              value={name}
              onChange={(e) => setName(e.target.value)}
              placeholder="What the crew works on"
            />
          </Field>
          <Field label="Key">
            <TextInput
              className="key !text-[14px]"
              name="key"
              required
              maxLength={10}
              value={key}
              onChange={(e) => setOwnKey(e.target.value.toUpperCase())}
              aria-describedby="key-help"
            />
            <span id="key-help" className="font-normal text-ink-soft">
              {key
                ? `Items are called ${key}-1, ${key}-2 and so on. It stays as it is.`
                : "Items are called by it and a number. It stays as it is."}
            </span>
          </Field>
          <fieldset className="flex flex-col">
            <legend className="mb-1 text-[12.5px] font-semibold">Who may look</legend>
            {(["everyone", "members"] as const).map((v) => (
              <Choice
                key={v}
                name="visibility"
                checked={visibility === v}
                onChange={() => setVisibility(v)}
              >
                {v === "everyone" ? "Everyone who can sign in" : "Only its members"}
              </Choice>
            ))}
          </fieldset>
          <fieldset className="flex flex-col">
            <legend className="mb-1 text-[12.5px] font-semibold">How work moves</legend>
            {PREVIEWS.map(({ template: t }) => (
              <Choice
                key={t.name}
                name="template"
                checked={template === t.name}
                onChange={() => setTemplate(t.name)}
              >
                <span className={template === t.name ? "font-semibold" : ""}>{t.name}</span>
              </Choice>
            ))}
          </fieldset>
          {trouble && (
            <FormProblem>
              {trouble.sentence} {trouble.help}
            </FormProblem>
          )}
          <Button type="submit" disabled={busy} look="strong" className="justify-center">
            {busy ? "Starting…" : "Start the project"}
          </Button>
        </div>
        <Preview {...chosen} />
      </form>
    </main>
  );
}

/** The process of a template, drawn large. */
function Preview({ template, workflow }: (typeof PREVIEWS)[number]) {
  return (
    <section
      aria-label="The process to begin with"
      aria-live="polite"
      className="sheet flex min-h-[420px] flex-col gap-1 p-5"
    >
      <h2 className="text-[18px]">{template.name}</h2>
      <p className="mb-4 text-ink-soft">{template.suits}</p>
      <RailMap workflow={workflow} />
      <p className="mt-auto pt-4 text-[13px] text-ink-soft">
        {counted(workflow.states.length, "state")}, {counted(workflow.transitions.length, "move")}.
        All of it can be changed afterwards.
      </p>
    </section>
  );
}
