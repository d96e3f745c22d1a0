"use client";
import { MessageSquarePlus } from "lucide-react";
import { useEffect, useRef, useState, type FormEvent, type KeyboardEvent } from "react";
import { intakeContract } from "@/core/intake/contract";
import { MOST_FILES } from "@/core/intake/file-limits";
import { filesProblem } from "@/ui/intake/files-problem";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { ChosenFiles } from "@/ui/kit/chosen-files";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { tellDone } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { Popover } from "@/ui/kit/popover";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { takesKeys } from "@/ui/kit/takes-keys";

interface Written {
  title: string;
  happened: string;
  caller: string;
}

const NOTHING: Written = { title: "", happened: "", caller: "" };
const GAP = 12;

/** What is docked at the right is not covered by what is written about it. */
const besidePanel = (panel: Element) => window.innerWidth - panel.getBoundingClientRect().left;

/** Something to report, from wherever one is, by one key; the item in view goes with it. */
export function QuickReport({ projectKey }: { projectKey: string }) {
  const [open, setOpen] = useState(false);
  const [clear, setClear] = useState(GAP);
  const show = (next: boolean) => {
    const panel = document.querySelector("main + aside");
    setClear(panel ? besidePanel(panel) + GAP : GAP);
    setOpen(next);
  };
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      const changed = event.ctrlKey || event.metaKey || event.altKey;
      if (takesKeys(event.target) || changed || event.key !== "r") return;
      event.preventDefault();
      show(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const writing = useQuickReport(projectKey, () => setOpen(false));
  return (
    <Popover
      open={open}
      onOpenChange={show}
      label="Report something"
      align="end"
      clearRight={clear}
      className="max-h-[80vh] w-[380px] overflow-y-auto"
      trigger={
        <button
          type="button"
          className="inline-flex h-8 w-8 items-center justify-center rounded-[3px] text-ink-soft hover:text-ink"
          aria-label="Report something"
          title="Report something (r)"
        >
          <MessageSquarePlus size={17} aria-hidden="true" />
        </button>
      }
    >
      <QuickForm writing={writing} />
    </Popover>
  );
}

/** What is being written: it stays until it is sent, also over a reload of the page. */
function useQuickReport(projectKey: string, onSent: () => void) {
  const { itemKey } = usePanel();
  const storedAs = `quick-report ${projectKey}`;
  const [written, setWritten] = useState(NOTHING);
  const [files, setFiles] = useState<File[]>([]);
  const [withItem, setWithItem] = useState(true);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  // After the first drawing: a server has nothing of it.
  useEffect(() => {
    const timer = setTimeout(() => {
      try {
        const kept = JSON.parse(sessionStorage.getItem(storedAs) ?? "null") as Written | null;
        if (kept) setWritten({ ...NOTHING, ...kept });
      } catch {
        sessionStorage.removeItem(storedAs);
      }
    });
    return () => clearTimeout(timer);
  }, [storedAs]);
  const write = (change: Partial<Written>) => {
    const next = { ...written, ...change };
    setWritten(next);
    sessionStorage.setItem(storedAs, JSON.stringify(next));
  };
  const wrong = filesProblem(files);
  const send = async () => {
    if (busy || wrong !== null || !written.title.trim()) return;
    setBusy(true);
    const form = new FormData();
    for (const [name, value] of Object.entries(written)) form.set(name, value);
    if (withItem && itemKey) form.set("itemKey", itemKey);
    for (const file of files) form.append("files", file);
    try {
      const { reference } = await ask(
        intakeContract.quick,
        { params: { key: projectKey } },
        { form, retry: false },
      );
      tellDone(
        written.caller
          ? `${reference} is in the queue of Intake; ${written.caller} gets a page of their own.`
          : `${reference} is in the queue of Intake.`,
      );
      setWritten(NOTHING);
      setFiles([]);
      sessionStorage.removeItem(storedAs);
      setProblem(null);
      onSent();
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };
  return {
    written,
    write,
    files,
    setFiles,
    withItem,
    setWithItem,
    itemKey,
    problem,
    wrong,
    busy,
    send,
  };
}

function QuickForm({ writing }: { writing: ReturnType<typeof useQuickReport> }) {
  const { written, write, itemKey, wrong, problem, busy } = writing;
  const form = useRef<HTMLFormElement>(null);
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key !== "Enter" || !(e.ctrlKey || e.metaKey)) return;
    e.preventDefault();
    form.current?.requestSubmit();
  };
  return (
    <form
      ref={form}
      onKeyDown={onKeyDown}
      onSubmit={(e: FormEvent) => {
        e.preventDefault();
        void writing.send();
      }}
      className="flex flex-col gap-2"
    >
      <Field label="What is wrong, in a few words?">
        <TextInput
          autoFocus
          required
          maxLength={200}
          value={written.title}
          onChange={(e) => write({ title: e.target.value })}
        />
      </Field>
      <Field label="What happened?">
        <TextArea
          className="!font-normal"
          rows={3}
          maxLength={10_000}
          value={written.happened}
          onChange={(e) => write({ happened: e.target.value })}
        />
      </Field>
      <ChosenFiles
        label="Pictures or files"
        words="Add pictures or files"
        files={writing.files}
        most={MOST_FILES}
        onChange={writing.setFiles}
      />
      <Field label="Who told you? Their mail address, if somebody did">
        <TextInput
          type="email"
          maxLength={200}
          value={written.caller}
          onChange={(e) => write({ caller: e.target.value })}
        />
      </Field>
      {itemKey && (
        <Check checked={writing.withItem} onChange={writing.setWithItem} className="text-[13px]">
          seen at {itemKey}
        </Check>
      )}
      {wrong && <FormProblem>{wrong}</FormProblem>}
      {problem && (
        <FormProblem>
          <b>{problem.sentence}</b> {problem.help}
        </FormProblem>
      )}
      <Button
        type="submit"
        look="accent"
        small
        className="self-end"
        disabled={busy || wrong !== null}
        title="Ctrl Enter"
      >
        {busy ? "Sending…" : "Put it in the queue"}
      </Button>
    </form>
  );
}
