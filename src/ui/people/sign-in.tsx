"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button, TextButton } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { comeIn } from "./come-in";
import { Forgotten } from "./forgotten";
import { useState, type FormEvent } from "react";
import { Initials } from "@/ui/kit/initials";
import { Mark } from "@/ui/kit/mark";
import { ask, problemOf } from "@/ui/kit/request";
import { sessionContract } from "@/core/people/contract";

export interface DemoSignIns {
  password: string;
  people: { id: string; name: string; calling: string; mail: string }[];
}

type Typed = Record<"name" | "mail" | "password", string>;

/** What is done by the form. */
function titleOf({ isNew, first, demo }: Record<"isNew" | "first" | "demo", boolean>): string {
  if (isNew) return first ? "Make the first account" : "Make an account";
  return demo ? "Or with a password" : "Sign in";
}

/**
 * Sign-in by password, and in the demo by one click on a made-up person. Where it is open, new
 * people make an account here; the first one of all looks after the product.
 */
export function SignIn({
  demo,
  signUp,
  first,
  mailGoesOut,
  to,
}: {
  demo: DemoSignIns | null;
  signUp: boolean;
  first: boolean;
  /** Whether a forgotten password can be asked for by mail. */
  mailGoesOut: boolean;
  /** Where they wanted to go. */
  to: string;
}) {
  const [typed, setTyped] = useState<Typed>({ name: "", mail: "", password: "" });
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isNew, setIsNew] = useState(first && signUp);
  const [busy, setBusy] = useState<string | null>(null);
  const enter = async (email: string, secret: string, who: string) => {
    setBusy(who);
    setTrouble(null);
    try {
      await ask(sessionContract.signIn, { body: { email, password: secret } });
      comeIn(to);
    } catch (error) {
      const { status, sentence, help } = problemOf(error);
      setTrouble(
        status === 401 || status === 400
          ? "This mail address and password do not belong together."
          : `${sentence} ${help}`,
      );
      setBusy(null);
    }
  };
  const makeAccount = async () => {
    setBusy("form");
    setTrouble(null);
    try {
      await ask(
        sessionContract.signUp,
        { body: { name: typed.name.trim(), email: typed.mail, password: typed.password } },
        { retry: false },
      );
      comeIn(to);
    } catch (error) {
      const { status, sentence, help, errors } = problemOf(error);
      setTrouble(
        errors[0]?.message ??
          (status === 400
            ? "The mail address or the password does not do."
            : `${sentence} ${help}`),
      );
      setBusy(null);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void (isNew ? makeAccount() : enter(typed.mail, typed.password, "form"));
  };
  return (
    <main className="relative min-h-dvh overflow-hidden">
      <Rails />
      <div className="relative mx-auto flex min-h-dvh max-w-[920px] flex-col justify-center gap-8 px-6 py-10">
        <div className="flex items-center gap-3">
          <Mark size={52} />
          <div>
            <h1 className="text-[28px] leading-tight">Zigzag Lane</h1>
            <p className="text-ink-soft">High while somebody works on it, low while it waits.</p>
          </div>
        </div>
        <div className={`grid gap-6 ${demo ? "md:grid-cols-[1fr_300px]" : "max-w-[320px]"}`}>
          {demo && <DemoCrew demo={demo} busy={busy} onEnter={enter} />}
          <form onSubmit={submit} className="sheet flex flex-col gap-3 self-start p-5">
            <h2 className="text-[16px]">{titleOf({ isNew, first, demo: demo !== null })}</h2>
            <AccountFields
              isNew={isNew}
              first={first}
              typed={typed}
              onChange={(change) => setTyped((t) => ({ ...t, ...change }))}
            />
            {trouble && <FormProblem>{trouble}</FormProblem>}
            <Button type="submit" disabled={busy !== null} look="strong" className="justify-center">
              {busy === "form"
                ? isNew
                  ? "Making it…"
                  : "Signing in…"
                : isNew
                  ? "Make an account"
                  : "Sign in"}
            </Button>
            {mailGoesOut && !isNew && <Forgotten mail={typed.mail} />}
            {signUp && !first && (
              <TextButton
                className="self-start text-[13px]"
                onClick={() => (setIsNew(!isNew), setTrouble(null))}
              >
                {isNew ? "I have an account" : "I am new here: make an account"}
              </TextButton>
            )}
          </form>
        </div>
      </div>
    </main>
  );
}

/** The product's picture, faint behind the page: one line between two rails. */
function Rails() {
  return (
    <svg
      className="absolute inset-x-0 bottom-0 h-[38vh] w-full"
      viewBox="0 0 1280 300"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <line x1="0" x2="1280" y1="70" y2="70" stroke="var(--line)" />
      <line x1="0" x2="1280" y1="230" y2="230" stroke="var(--line)" />
      <polyline
        points="0,230 90,230 150,70 330,70 390,230 560,230 620,70 720,70 780,230 1000,230 1060,70 1130,70 1190,230 1280,230"
        fill="none"
        stroke="var(--accent)"
        strokeOpacity="0.28"
        strokeWidth="5"
      />
    </svg>
  );
}

/** The made-up people of the demo; one click signs in as one of them. */
function DemoCrew({
  demo,
  busy,
  onEnter,
}: {
  demo: DemoSignIns;
  busy: string | null;
  onEnter: (mail: string, password: string, who: string) => Promise<void>;
}) {
  return (
    <section className="sheet p-5">
      <h2 className="text-[16px]">Step aboard at Saltmarsh Ferries</h2>
      <p className="mb-3 text-ink-soft">
        A made-up crew with nine months of work. Choose who you are today.
      </p>
      <ul className="grid gap-1 sm:grid-cols-2">
        {demo.people.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              disabled={busy !== null}
              onClick={() => void onEnter(p.mail, demo.password, p.id)}
              className="flex w-full items-center gap-3 rounded-[3px] px-2 py-1.5 text-left hover:bg-accent-soft disabled:opacity-60"
            >
              <Initials name={p.name} size={28} />
              <span className="leading-tight">
                <span className="block font-semibold">{p.name}</span>
                <span className="text-[12.5px] text-ink-soft">
                  {busy === p.id ? "Signing in…" : p.calling}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is typed to sign in, or to make an account. */
function AccountFields({
  isNew,
  first,
  typed,
  onChange,
}: {
  isNew: boolean;
  first: boolean;
  typed: Typed;
  onChange: (change: Partial<Typed>) => void;
}) {
  return (
    <>
      {isNew && first && (
        <p className="text-[13px] text-ink-soft">
          It looks after the product: whoever has it makes accounts for the others. Afterwards
          nobody can make one here.
        </p>
      )}
      {isNew && (
        <Field label="Your name">
          <TextInput
            name="name"
            autoComplete="name"
            required
            maxLength={80}
            value={typed.name}
            onChange={(e) => onChange({ name: e.target.value })}
          />
        </Field>
      )}
      <Field label="Mail address">
        <TextInput
          type="email"
          name="email"
          autoComplete="username"
          required
          maxLength={200}
          value={typed.mail}
          onChange={(e) => onChange({ mail: e.target.value })}
        />
      </Field>
      <Field label="Password">
        <TextInput
          type="password"
          name="password"
          autoComplete={isNew ? "new-password" : "current-password"}
          required
          minLength={isNew ? 10 : 1}
          maxLength={128}
          value={typed.password}
          onChange={(e) => onChange({ password: e.target.value })}
        />
      </Field>
    </>
  );
}
