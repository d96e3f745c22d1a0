"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { workflowContract } from "@/core/workflow/contract";
import type { DraftVisitor } from "@/core/workflow/draft-visit";
import { ask } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";

const TELL_EVERY_MS = 20_000;
/** A choice that is only passed through is not told. */
const TELL_AFTER_MS = 250;

/** Tells the others at a draft where one is, and hears where they are. */
export function useVisitors(
  key: string,
  workflowId: string,
  chosenId: string | null,
  mayEdit: boolean,
): DraftVisitor[] {
  const [others, setOthers] = useState<DraftVisitor[]>([]);
  const chosen = useRef(chosenId);
  const tell = useCallback(() => {
    if (!mayEdit || document.hidden) return;
    const body = { workflowId, chosenId: chosen.current };
    // That this is not told is no reason to disturb anybody.
    ask(workflowContract.visit, { params: { key }, body }, { retry: false }).then(
      setOthers,
      () => undefined,
    );
  }, [key, workflowId, mayEdit]);
  useEffect(() => {
    chosen.current = chosenId;
    const timer = setTimeout(tell, TELL_AFTER_MS);
    return () => clearTimeout(timer);
  }, [chosenId, tell]);
  useEffect(() => {
    if (!mayEdit) return;
    const timer = setInterval(tell, TELL_EVERY_MS);
    const leave = () => {
      const body = { workflowId, chosenId: null, leaves: true };
      ask(
        workflowContract.visit,
        { params: { key }, body },
        { retry: false, outlives: true },
      ).catch(() => undefined);
    };
    window.addEventListener("pagehide", leave);
    return () => {
      clearInterval(timer);
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [key, workflowId, mayEdit, tell]);
  useLive((message) => {
    if (message.kind === "visit" || message.kind === "resync") tell();
  });
  return others;
}
