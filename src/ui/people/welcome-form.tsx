"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { comeIn } from "./come-in";
import { useState, type FormEvent } from "react";
import { ask, problemOf } from "@/ui/kit/request";
import { PasswordField } from "./password-field";
import { QuietPage } from "./quiet-page";
import { peopleContract, sessionContract } from "@/core/people/contract";

/** Whoever was given a link chooses their password here, once. */
export function WelcomeForm({
  token,
  name,
  email,
}: {
  token: string;
  name: string;
  email: string;
}) {
  const [password, setPassword] = useState("");
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble(null);
    try {
      await ask(
        peopleContract.welcome,
        { params: { token }, body: { password } },
        { retry: false },
      );
      await ask(sessionContract.signIn, { body: { email, password } }, { retry: false });
      comeIn("/");
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setTrouble(`${sentence} ${help}`);
      setBusy(false);
    }
  };
  return (
    <QuietPage
      title={`Welcome, ${name.split(" ")[0]}`}
      says="Choose the password that you sign in with."
    >
      <form onSubmit={(e) => void submit(e)} className="sheet flex flex-col gap-3 p-5">
        <Field label="Mail address">
          <TextInput type="email" autoComplete="username" readOnly value={email} />
        </Field>
        <PasswordField
          label="Password, at least 10 characters"
          kind="new"
          value={password}
          onChange={setPassword}
        />
        {trouble && <FormProblem>{trouble}</FormProblem>}
        <Button type="submit" disabled={busy} look="strong" className="justify-center">
          {busy ? "Signing in…" : "Set it and sign in"}
        </Button>
      </form>
    </QuietPage>
  );
}
