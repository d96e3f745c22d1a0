"use client";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { useState, type FormEvent } from "react";
import { problemOf } from "@/ui/kit/request";

interface Fields {
  name: string;
  email: string;
  calling: string;
  administrator: boolean;
}
const NOTHING: Fields = { name: "", email: "", calling: "", administrator: false };

/**
 * Makes an account for somebody else. What was typed stays where it is refused. @param onMake
 * throws a Problem
 */
export function NewAccount({ onMake }: { onMake: (fields: Fields) => Promise<void> }) {
  const [fields, setFields] = useState(NOTHING);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const set = (change: Partial<Fields>) => setFields({ ...fields, ...change });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble(null);
    try {
      await onMake(fields);
      setFields(NOTHING);
    } catch (error) {
      const { sentence, help, errors } = problemOf(error);
      setTrouble(errors[0]?.message ?? `${sentence} ${help}`);
    } finally {
      setBusy(false);
    }
  };
  const text = (
    label: string,
    key: "name" | "email" | "calling",
    more: { type?: string; required?: boolean; maxLength: number },
  ) => (
    <Field label={label}>
      <TextInput {...more} value={fields[key]} onChange={(e) => set({ [key]: e.target.value })} />
    </Field>
  );
  return (
    <form
      aria-label="Make an account"
      onSubmit={(e) => void submit(e)}
      className="sheet flex flex-col gap-3 self-start p-5"
    >
      <h2 className="text-[16px]">Make an account</h2>
      {text("Name", "name", { required: true, maxLength: 80 })}
      {text("Mail address", "email", { type: "email", required: true, maxLength: 200 })}
      {text("What they do, in a word or two", "calling", { maxLength: 60 })}
      <Check
        checked={fields.administrator}
        onChange={(on) => set({ administrator: on })}
        className="text-[13px]"
      >
        looks after the product, as you do
      </Check>
      {trouble && <FormProblem>{trouble}</FormProblem>}
      <Button type="submit" disabled={busy} look="strong" className="justify-center">
        {busy ? "Making it…" : "Make it, and a link"}
      </Button>
    </form>
  );
}
