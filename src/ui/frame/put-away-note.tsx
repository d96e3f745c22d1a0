"use client";
import { useRouter } from "next/navigation";
import { workflowContract } from "@/core/workflow/contract";
import { TextButton } from "@/ui/kit/button";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import type { FrameProject } from "./project-menu";

/** Says on every page of a project that it was put away, and brings it back. */
export function PutAwayNote({
  project: { key, name },
  at,
  mayBringBack,
}: {
  project: FrameProject;
  at: number;
  mayBringBack: boolean;
}) {
  const router = useRouter();
  const bringBack = async () => {
    await ask(workflowContract.putProjectAway, { params: { key }, body: { away: false } });
    tellDone(`${name} is back.`);
    router.refresh();
  };
  const day = new Date(at).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
  });
  return (
    <p role="status" className="border-b border-line bg-signal-soft px-4 py-1.5 text-[13px]">
      <b>This project was put away</b> on {day}: it can be read, and nothing of it changes.
      {mayBringBack && (
        <>
          {" "}
          <TextButton onClick={() => void bringBack().catch(tellProblem)}>Bring it back</TextButton>
        </>
      )}
    </p>
  );
}
