"use client";
import { Note } from "@/ui/kit/note";
import { FilePick } from "@/ui/kit/file-pick";
import { Field } from "@/ui/kit/field";
import { Button } from "@/ui/kit/button";
import { Choice } from "@/ui/kit/check";
import { decodeText } from "@/core/formats/decode-text";
import { useQueryClient } from "@tanstack/react-query";
import { Download, Plus } from "lucide-react";
import { Popover } from "@/ui/kit/popover";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { tellDone } from "@/ui/kit/notice";
import { keyOf, ask, problemOf, type Problem } from "@/ui/kit/request";
import { useDesignRequest } from "./use-design-request";
import { addressOf } from "@/core/contract/contract";
import { workflowContract } from "@/core/workflow/contract";
import type { MadeWorkflow } from "@/core/workflow/new-workflow";

const FORMATS = [
  { format: "scxml", label: "SCXML", about: "for other programs; read back, nothing is lost" },
  { format: "json", label: "JSON", about: "with its schema; read back, nothing is lost" },
  { format: "svg", label: "SVG", about: "the map as a picture" },
  { format: "mermaid", label: "Mermaid", about: "the map as text for a document" },
] as const;

/** Takes a workflow out of the product as a file. */
export function ExportMenu({
  projectKey,
  workflowId,
  hasDraft,
}: {
  projectKey: string;
  workflowId: string;
  hasDraft: boolean;
}) {
  const [which, setWhich] = useState<"running" | "draft">("running");
  const chosen = hasDraft ? which : "running";
  return (
    <Popover
      label="As a file"
      align="end"
      className="w-[340px]"
      trigger={
        <Button small>
          <Download size={14} aria-hidden="true" /> As a file
        </Button>
      }
    >
      {hasDraft && (
        <fieldset className="mb-1 flex gap-3 text-[13px]">
          <legend className="sr-only">Which</legend>
          {(["running", "draft"] as const).map((w) => (
            <Choice key={w} name="which" checked={chosen === w} onChange={() => setWhich(w)}>
              {w === "running" ? "what runs" : "the draft"}
            </Choice>
          ))}
        </fieldset>
      )}
      <ul>
        {FORMATS.map(({ format, label, about }) => (
          <li key={format}>
            <a
              className="menu-item"
              download
              href={addressOf(workflowContract.file, {
                params: { key: projectKey },
                query: { workflow: workflowId, format, which: chosen },
              })}
            >
              <b className="w-20">{label}</b>{" "}
              <span className="text-[12.5px] text-ink-soft">{about}</span>
            </a>
          </li>
        ))}
      </ul>
      <a
        className="link mt-1 block text-[12.5px]"
        href={addressOf(workflowContract.schema, {})}
        target="_blank"
        rel="noopener"
      >
        The JSON Schema of a workflow
      </a>
    </Popover>
  );
}

type From =
  | { kind: "template"; name: string }
  | { kind: "copy"; workflowId: string }
  | { kind: "empty" }
  | { kind: "file"; text: string };

/**
 * Adds a workflow: from a template, a copy, a file or nothing. What a file said and what was not
 * taken of it is told.
 */
export function NewWorkflow({
  view,
  onMade,
}: {
  view: DesignView;
  onMade: (workflowId: string) => void;
}) {
  const adding = useNewWorkflow(view, onMade);
  const { open, made, problem, busy, make, bringBack, read } = adding;
  return (
    <Popover
      open={open}
      onOpenChange={adding.show}
      label="New workflow"
      align="start"
      className="max-h-[70vh] w-[420px] overflow-y-auto"
      trigger={
        <Button small>
          <Plus size={14} aria-hidden="true" /> New workflow
        </Button>
      }
    >
      {made ? (
        <ReadFromFile made={made} onLook={() => onMade(made.workflowId)} />
      ) : (
        <div className="flex flex-col gap-2">
          {problem && (
            <div className="sticky top-0 z-10">
              <Note kind="problem">
                <b>{problem.sentence}</b> {problem.help}
              </Note>
            </div>
          )}
          <p className="text-[13px] text-ink-soft">
            Nobody is bound by it until an item type follows it.
          </p>
          <Group title="From a template">
            {PROJECT_TEMPLATES.map((t) => (
              <button
                key={t.name}
                type="button"
                disabled={busy}
                className="menu-item w-full text-left"
                title={t.suits}
                onClick={() => void make({ kind: "template", name: t.name })}
              >
                <span className="min-w-0 flex-1">
                  {t.name}
                  <span className="block truncate text-[12px] text-ink-soft">{t.suits}</span>
                </span>
              </button>
            ))}
          </Group>
          <Group title="As a copy of">
            {view.workflows.map((w) => (
              <button
                key={w.id}
                type="button"
                disabled={busy}
                className="menu-item w-full text-left"
                onClick={() => void make({ kind: "copy", workflowId: w.id })}
              >
                {w.name}
              </button>
            ))}
          </Group>
          {view.removed.length > 0 && (
            <Group title="Bring back what was taken out">
              {view.removed.map((w) => (
                <button
                  key={w.id}
                  type="button"
                  disabled={busy}
                  className="menu-item w-full text-left"
                  onClick={() => void bringBack(w.id)}
                >
                  {w.name}
                </button>
              ))}
            </Group>
          )}
          <Field label="From a file (SCXML or JSON)">
            <FilePick
              accept=".scxml,.xml,.json,application/json,application/xml,application/scxml+xml"
              disabled={busy}
              onFiles={([file]) => file && void read(file)}
            />
          </Field>
          {busy && <p className="text-[13px] text-ink-soft">One moment…</p>}
        </div>
      )}
    </Popover>
  );
}

/** Makes workflows, or brings one back. */
function useNewWorkflow(view: DesignView, onMade: (workflowId: string) => void) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [made, setMade] = useState<MadeWorkflow | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const send = useDesignRequest(view.project.key);
  const params = { key: view.project.key };
  const show = (next: boolean) => {
    setOpen(next);
    setMade(null);
    setProblem(null);
  };
  const make = async (from: From) => {
    setBusy(true);
    setProblem(null);
    try {
      const result = await ask(workflowContract.add, { params, body: { from, name: "" } });
      await client.invalidateQueries({ queryKey: keyOf(workflowContract.design, { params }) });
      // What a file said is told first; then its workflow is shown.
      if (from.kind === "file") setMade(result);
      else {
        onMade(result.workflowId);
        setOpen(false);
        tellDone("The workflow is there; no type follows it yet.");
      }
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };
  const bringBack = async (id: string) => {
    if (!(await send("workflows", { kind: "bring back", id }))) return;
    onMade(id);
    setOpen(false);
  };
  const read = async (file: File) => {
    const { text } = decodeText(new Uint8Array(await file.arrayBuffer()));
    await make({ kind: "file", text });
  };
  return { open, made, problem, busy, show, make, bringBack, read };
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div role="group" aria-label={title}>
      <p className="text-[12px] font-semibold">{title}</p>
      {children}
    </div>
  );
}

function Sentences({ title, sentences }: { title: string; sentences: string[] }) {
  if (sentences.length === 0) return null;
  return (
    <div>
      <h3 className="text-[13px]">
        {title} ({sentences.length})
      </h3>
      <ul className="max-h-48 overflow-y-auto">
        {sentences.map((s, i) => (
          <li key={i} className="border-t border-line py-0.5">
            {s}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What a file said, and what was not taken of it. */
function ReadFromFile({ made, onLook }: { made: MadeWorkflow; onLook: () => void }) {
  return (
    <div className="flex flex-col gap-2 text-[13px]" role="status">
      <h2 className="text-[15px]">Read from the file</h2>
      {made.isDraft && (
        <Note kind="look">
          It is a draft: mend what is listed on the right before you publish it.
        </Note>
      )}
      <Sentences title="Taken" sentences={made.taken} />
      <Sentences title="Not taken, or to look at" sentences={made.left} />
      <Button small className="self-end" onClick={onLook}>
        Look at it
      </Button>
    </div>
  );
}
