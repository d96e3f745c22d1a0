"use client";
import { useState, type FormEvent } from "react";
import { peopleContract, sessionContract } from "@/core/people/contract";
import type { JoinView } from "@/core/people/invitation";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { ask, problemOf } from "@/ui/kit/request";
import { comeIn } from "./come-in";
import { PasswordField } from "./password-field";
import { QuietPage } from "./quiet-page";

/** Whoever was invited comes into the project: as who they are signed in as, or with a new account. */
export function JoinForm({ token, view }: { token: string; view: JoinView }) {
  const { projectName, role, by, signedInAs } = view;
  return (
    <QuietPage
      title={`Come aboard “${projectName}”`}
      says={`${by} invites you as ${role === "member" ? "a member, who works on it" : "an observer, who reads it"}.`}
    >
      {signedInAs ? (
        <JoinSignedIn token={token} name={signedInAs} />
      ) : (
        <JoinNew token={token} email={view.email} />
      )}
    </QuietPage>
  );
}

const wordsOf = (error: unknown): string => {
  const { sentence, help, errors } = problemOf(error);
  return errors[0]?.message ?? `${sentence} ${help}`;
};

function JoinSignedIn({ token, name }: { token: string; name: string }) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const join = async () => {
    setBusy(true);
    try {
      const { projectKey } = await ask(
        peopleContract.join,
        { params: { token }, body: {} },
        { retry: false },
      );
      comeIn(`/p/${projectKey}/flow`);
    } catch (error) {
      setTrouble(wordsOf(error));
      setBusy(false);
    }
  };
  return (
    <div className="sheet flex flex-col gap-3 p-5">
      <p>
        You are signed in as <b>{name}</b>.
      </p>
      {trouble && <FormProblem>{trouble}</FormProblem>}
      <Button look="strong" className="justify-center" disabled={busy} onClick={() => void join()}>
        {busy ? "Coming in…" : "Come in"}
      </Button>
    </div>
  );
}

function JoinNew({ token, email: invited }: { token: string; email: string | null }) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState(invited ?? "");
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble(null);
    try {
      const body = { name, email, password };
      const { projectKey } = await ask(
        peopleContract.joinNew,
        { params: { token }, body },
        { retry: false },
      );
      await ask(sessionContract.signIn, { body: { email, password } }, { retry: false });
      comeIn(`/p/${projectKey}/flow`);
    } catch (error) {
      setTrouble(wordsOf(error));
      setBusy(false);
    }
  };
  return (
    <form
      aria-label="Make an account and come in"
      onSubmit={(event) => void submit(event)}
      className="sheet flex flex-col gap-3 p-5"
    >
      <Field label="Your name">
        <TextInput
          autoComplete="name"
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      <Field label="Mail address">
        <TextInput
          type="email"
          autoComplete="username"
          required
          maxLength={200}
          readOnly={invited !== null}
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </Field>
      <PasswordField
        label="Password, at least 10 characters"
        kind="new"
        value={password}
        onChange={setPassword}
      />
      {trouble && <FormProblem>{trouble}</FormProblem>}
      <Button type="submit" disabled={busy} look="strong" className="justify-center">
        {busy ? "Coming in…" : "Make an account and come in"}
      </Button>
      <p className="text-[13px] text-ink-soft">
        Or{" "}
        <a className="link" href={`/sign-in?to=/join/${token}`}>
          sign in with the account that you have
        </a>
        .
      </p>
    </form>
  );
}
