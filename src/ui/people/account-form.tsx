"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import Link from "next/link";
import { useState, type FormEvent } from "react";
import { ask, problemOf } from "@/ui/kit/request";
import { PasswordField } from "./password-field";
import { PictureForm } from "./picture-form";
import { QuietPage } from "./quiet-page";
import { sessionContract } from "@/core/people/contract";

/** One's own account: the picture, and the password. Where that changes one is signed out everywhere else. */
export function AccountForm({ name }: { name: string }) {
  const [current, setCurrent] = useState("");
  const [next, setNext] = useState("");
  const [state, setState] = useState<"idle" | "busy" | "done">("idle");
  const [trouble, setTrouble] = useState<string | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setState("busy");
    setTrouble(null);
    try {
      await ask(
        sessionContract.changePassword,
        { body: { currentPassword: current, newPassword: next } },
        { retry: false },
      );
      setState("done");
      setCurrent("");
      setNext("");
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setTrouble(`${sentence} ${help}`);
      setState("idle");
    }
  };
  return (
    <QuietPage title="Your account" says={`You are signed in as ${name}.`}>
      <PictureForm name={name} />
      <form onSubmit={(e) => void submit(e)} className="sheet flex flex-col gap-3 p-5">
        <PasswordField
          label="Present password"
          kind="current"
          value={current}
          onChange={setCurrent}
        />
        <PasswordField
          label="New password, at least 10 characters"
          kind="new"
          value={next}
          onChange={setNext}
        />
        {trouble && <FormProblem>{trouble}</FormProblem>}
        {state === "done" && (
          <p role="status" className="text-[13px] font-semibold text-accent">
            Changed. Wherever else you were signed in, you are not any more.
          </p>
        )}
        <Button type="submit" disabled={state === "busy"} look="strong" className="justify-center">
          {state === "busy" ? "Changing…" : "Change the password"}
        </Button>
      </form>
      <Link href="/" className="link self-start">
        Back to work
      </Link>
    </QuietPage>
  );
}
