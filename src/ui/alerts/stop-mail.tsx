"use client";
import Link from "next/link";
import { useState } from "react";
import { alertsContract } from "@/core/alerts/contract";
import { Button } from "@/ui/kit/button";
import { FormProblem } from "@/ui/kit/note";
import { ask, problemOf } from "@/ui/kit/request";
import { QuietPage } from "@/ui/people/quiet-page";

/** Stops the mails about one item, for whoever has the address that stood in one of them. */
export function StopMail({ token, stopped }: { token: string; stopped: boolean }) {
  const [state, setState] = useState<"idle" | "busy" | "done">(stopped ? "done" : "idle");
  const [trouble, setTrouble] = useState<string | null>(null);
  const stop = async () => {
    setState("busy");
    setTrouble(null);
    try {
      await ask(alertsContract.stopMail, { params: { token } });
      setState("done");
    } catch (error) {
      setTrouble(problemOf(error).sentence);
      setState("idle");
    }
  };
  return (
    <QuietPage
      title="No more mail about this"
      says="It is about the item of the mail you came from, and about no other."
    >
      <div className="sheet flex flex-col gap-3 p-5">
        {state === "done" ? (
          <p role="status" className="font-semibold text-accent">
            No more mail comes about it. Your list still tells you what happens.
          </p>
        ) : (
          <Button look="strong" disabled={state === "busy"} onClick={() => void stop()}>
            Send me no more mail about it
          </Button>
        )}
        {trouble && <FormProblem>{trouble}</FormProblem>}
      </div>
      <Link href="/account/alerts" className="link self-start">
        How I hear of everything else
      </Link>
    </QuietPage>
  );
}
