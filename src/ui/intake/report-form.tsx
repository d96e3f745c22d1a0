"use client";
import { useState, type FormEvent, type ReactNode } from "react";
import { Mark } from "@/ui/kit/mark";
import { problemOf, request, type Problem } from "@/ui/kit/request";

const FIELDS = ["title", "happened", "reproduce", "place", "mail"] as const;
type Field = (typeof FIELDS)[number];
const LARGEST_PICTURE_MB = 5;

/** The public report page: no account, one sheet, plain words. Nothing typed is lost when something is wrong. */
export function ReportForm({ projectKey, projectName }: { projectKey: string; projectName: string }) {
  const [values, setValues] = useState<Record<Field, string>>({ title: "", happened: "", reproduce: "", place: "", mail: "" });
  const [picture, setPicture] = useState<File | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [sent, setSent] = useState<{ reference: string; token: string } | null>(null);
  const pictureTooLarge = picture !== null && picture.size > LARGEST_PICTURE_MB * 1024 * 1024;
  const fieldError = (field: Field) => problem?.errors.find((e) => e.field === field)?.message;

  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (pictureTooLarge) return;
    setBusy(true);
    const form = new FormData();
    for (const field of FIELDS) form.set(field, values[field]);
    if (picture) form.set("picture", picture);
    try {
      // Not sent again by itself: a report must not arrive twice.
      setSent(await request(`/api/public/reports/${projectKey}`, { form, retry: false }));
      setProblem(null);
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };

  if (sent)
    return (
      <Sheet projectName={projectName}>
        <h1 className="text-[24px]">Thank you, we have it</h1>
        <p className="mt-2">
          Your reference is <b className="font-mono text-[16px]">{sent.reference}</b>.
        </p>
        <p className="mt-2">On a page of your own you can follow what becomes of it and answer if we have a question. Keep the address; it is the only way there.</p>
        <p className="mt-4">
          <a className="button button-accent" href={`/r/${sent.token}`}>
            Open my page
          </a>
        </p>
      </Sheet>
    );
  const input = (field: Field) => ({
    id: field,
    name: field,
    className: "field",
    value: values[field],
    "aria-invalid": Boolean(fieldError(field)),
    "aria-describedby": fieldError(field) ? `${field}-error` : undefined,
    onChange: (e: { target: { value: string } }) => setValues((v) => ({ ...v, [field]: e.target.value })),
  });
  return (
    <Sheet projectName={projectName}>
      <h1 className="text-[24px] leading-tight">What went wrong?</h1>
      <p className="mb-5 mt-1 text-ink-soft">A person reads every report, the oldest first. You need no account.</p>
      <form onSubmit={(e) => void send(e)} noValidate className="flex flex-col gap-4">
        <Question label="In a few words" field="title" error={fieldError("title")}>
          <input {...input("title")} required maxLength={400} placeholder="Ticket refused at the gate" />
        </Question>
        <Question label="What happened?" field="happened" error={fieldError("happened")}>
          <textarea {...input("happened")} required rows={4} placeholder="What you did, what you saw, what you had expected" />
        </Question>
        <Question label="How can we make it happen again?" field="reproduce" optional error={fieldError("reproduce")}>
          <textarea {...input("reproduce")} rows={3} placeholder="Step by step, if you know" />
        </Question>
        <div className="grid gap-4 sm:grid-cols-2">
          <Question label="Where was it?" field="place" optional error={fieldError("place")}>
            <input {...input("place")} maxLength={400} placeholder="Quay, boat, or page of the app" />
          </Question>
          <Question label="Your mail address" field="mail" error={fieldError("mail")}>
            <input {...input("mail")} type="email" autoComplete="email" required placeholder="you@post.example" />
          </Question>
        </div>
        <Question label="A picture" field="picture" optional error={pictureTooLarge ? `This picture is larger than ${LARGEST_PICTURE_MB} MB. Choose a smaller one; your text stays.` : undefined}>
          <input id="picture" className="field" type="file" accept="image/png,image/jpeg,image/gif,image/webp" onChange={(e) => setPicture(e.target.files?.[0] ?? null)} />
        </Question>
        {problem && (
          <p role="alert" className="border-l-[3px] border-alarm bg-alarm-soft px-3 py-2">
            <b>{problem.errors.length > 0 ? "Something is missing or not right." : problem.sentence}</b> {problem.errors.length > 0 ? "It is marked above; what you typed is still there." : problem.help}
          </p>
        )}
        <button type="submit" disabled={busy || pictureTooLarge} className="button button-accent self-start !min-h-10 !px-6 !text-[15px]">
          {busy ? "Sending…" : "Send report"}
        </button>
      </form>
    </Sheet>
  );
}

function Question({ label, field, optional = false, error, children }: { label: string; field: string; optional?: boolean; error?: string; children: ReactNode }) {
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={field} className="font-semibold">
        {label} {optional && <span className="font-normal text-ink-soft">(if you like)</span>}
      </label>
      {children}
      {error && (
        <p id={`${field}-error`} className="text-[13px] font-semibold text-alarm">
          {error}
        </p>
      )}
    </div>
  );
}

/** A page for people without an account. */
export function Sheet({ projectName, children }: { projectName: string; children: ReactNode }) {
  return (
    <main className="mx-auto max-w-[640px] px-4 py-8 sm:py-12">
      <p className="mb-4 flex items-center gap-3">
        <Mark size={34} />
        <span className="font-display text-[15px] font-semibold">{projectName}</span>
      </p>
      <div className="sheet px-5 py-6 sm:px-8">{children}</div>
    </main>
  );
}
