"use client";
import { flowPath, readAcrossKey } from "@/core/across/place";
import { alertsContract } from "@/core/alerts/contract";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Sharing, View, ViewRequest } from "@/core/view/view";
import { Button } from "@/ui/kit/button";
import { FormProblem } from "@/ui/kit/note";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf } from "@/ui/kit/request";
import { SharingFields } from "./sharing-fields";
import type { LookHandle } from "./use-look";
import { LinkButton } from "./link-button";

/** Whether I hear of what happens to the items that a view shows. */
function FollowView({ handle, view }: { handle: LookHandle; view: View }) {
  if (readAcrossKey(handle.projectKey) !== null) return null;
  const set = async (on: boolean) => {
    await ask(alertsContract.follow, { body: { kind: "view", target: view.id, on } });
    await handle.readAgain();
    const done = on
      ? `You hear of what happens to the items in “${view.name}”.`
      : `You follow “${view.name}” no more.`;
    tellDone(done, () => set(!on));
  };
  return (
    <Button
      look="quiet"
      aria-pressed={view.followed}
      title="Hear of what happens to the items that it shows"
      onClick={() => void set(!view.followed).catch(tellProblem)}
    >
      {view.followed ? "Following" : "Follow"}
    </Button>
  );
}

/** Whose a view is and what it is called; its owner, or a lead, changes that or puts it away. */
export function ViewSettings({
  handle,
  view,
  onDone,
}: {
  handle: LookHandle;
  view: View;
  onDone: () => void;
}) {
  const router = useRouter();
  const [name, setName] = useState(view.name);
  const [sharing, setSharing] = useState<Sharing>(view.sharing);
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (request: ViewRequest, after: () => void) => {
    try {
      await handle.send(request);
      after();
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
    }
  };
  const whose = view.owner ? `${view.owner.name}’s view` : "A view of the project";
  if (!view.mayChange)
    return (
      <div className="flex flex-col gap-2 text-[13px]">
        <p>
          {whose}. What you change here changes nothing for others; keep it as another view to find
          it again.
        </p>
        <div className="flex gap-2">
          <FollowView handle={handle} view={view} />
          <LinkButton handle={handle} />
        </div>
      </div>
    );
  const changed = name.trim() !== view.name || sharing !== view.sharing;
  const change = { kind: "change", id: view.id, version: view.version } as const;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send({ ...change, changes: { name: name.trim(), sharing } }, () =>
          tellDone(`“${name.trim()}” is stored.`),
        );
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
      <div className="flex items-center gap-2">
        <Button type="submit" look="accent" disabled={!changed || name.trim() === ""}>
          Store
        </Button>
        <Button
          look="quiet"
          onClick={() =>
            void send({ kind: "put away", id: view.id }, () => {
              router.push(flowPath(handle.projectKey));
              tellDone(`“${view.name}” is put away.`, () =>
                handle.send({ kind: "bring back", id: view.id }),
              );
            })
          }
        >
          Put away
        </Button>
        <span className="flex-1" />
        <FollowView handle={handle} view={view} />
        <LinkButton handle={handle} />
      </div>
    </form>
  );
}
