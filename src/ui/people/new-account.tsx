"use client";
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
    <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
      {label}
      <input
        className="field"
        {...more}
        value={fields[key]}
        onChange={(e) => set({ [key]: e.target.value })}
      />
    </label>
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
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          checked={fields.administrator}
          onChange={(e) => set({ administrator: e.target.checked })}
        />
        looks after the product, as you do
      </label>
      {trouble && (
        <p role="alert" className="text-[13px] font-semibold text-alarm">
          {trouble}
        </p>
      )}
      <button type="submit" disabled={busy} className="button button-strong justify-center">
        {busy ? "Making it…" : "Make it, and a link"}
      </button>
    </form>
  );
}
