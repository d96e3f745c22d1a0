"use client";
import { useState } from "react";
import type { Sharing } from "@/core/view/view";
import { Button } from "@/ui/kit/button";
import { FormProblem } from "@/ui/kit/note";
import { problemOf } from "@/ui/kit/request";
import { SharingFields } from "./sharing-fields";
import type { LookHandle } from "./use-look";

/** Gives a name to what is looked at, and says who sees it. */
export function KeepAs({ handle, onDone }: { handle: LookHandle; onDone: () => void }) {
  const [name, setName] = useState("");
  const [sharing, setSharing] = useState<Sharing>("mine");
  const [problem, setProblem] = useState<string | null>(null);
  const store = async () => {
    try {
      await handle.keepAs(name.trim(), sharing);
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
    }
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void store();
      }}
    >
      <SharingFields
        rights={handle.views.rights}
        name={name}
        onName={setName}
        sharing={sharing}
        onSharing={setSharing}
      />
      {problem && <FormProblem>{problem}</FormProblem>}
      <Button type="submit" look="accent" disabled={name.trim() === ""}>
        Keep the view
      </Button>
    </form>
  );
}
