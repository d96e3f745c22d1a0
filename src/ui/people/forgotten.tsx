"use client";
import { useState } from "react";
import { peopleContract } from "@/core/people/contract";
import { TextButton } from "@/ui/kit/button";
import { ask, problemOf } from "@/ui/kit/request";

/** Asks for a letter with a link for a new password, to the address that stands in the form. */
export function Forgotten({ mail }: { mail: string }) {
  const [said, setSaid] = useState<string | null>(null);
  const send = async () => {
    if (mail.trim() === "") {
      setSaid("Write your mail address above, then press this again.");
      return;
    }
    try {
      await ask(peopleContract.forgotten, { body: { email: mail } }, { retry: false });
      setSaid(`If ${mail.trim()} has an account, a letter with a link is on its way.`);
    } catch (error) {
      const { sentence, help, errors } = problemOf(error);
      setSaid(errors[0]?.message ?? `${sentence} ${help}`);
    }
  };
  return (
    <div className="flex flex-col gap-1 text-[13px]">
      <TextButton className="self-start" onClick={() => void send()}>
        I have forgotten my password
      </TextButton>
      <p role="status" className="text-ink-soft">
        {said}
      </p>
    </div>
  );
}
