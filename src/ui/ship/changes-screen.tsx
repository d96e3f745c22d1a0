"use client";
import { useState } from "react";
import { addressOf } from "@/core/contract/contract";
import { shipContract } from "@/core/ship/contract";
import { counted } from "@/core/formats/counted";
import {
  GRAVE,
  OBSTACLES,
  obstaclesOf,
  type Obstacle,
  type ProjectCode,
  type ProjectWork,
} from "@/core/ship/open-work";
import { Button, ButtonLink } from "@/ui/kit/button";
import { Sheet } from "@/ui/kit/sheet";
import { MainWords } from "./main-words";
import { ShipSettingsForm } from "./ship-settings";
import { Strangers } from "./strangers";
import { useProjectCode } from "./use-project-code";
import { WorkRow } from "./work-row";

/** What is written and not on main yet: what stands against it, and for how long it is there. */
export function ChangesScreen({ initial }: { initial: ProjectCode }) {
  const handle = useProjectCode(initial);
  const { view } = handle;
  const { open, branches, merged, settings, rights, project, now } = view;
  const [settling, setSettling] = useState(false);
  const [naming, setNaming] = useState(false);
  const [only, setOnly] = useState<Obstacle | null>(null);
  const obstacles = (work: ProjectWork) => obstaclesOf(work, settings.branchDays);
  const shown = (works: readonly ProjectWork[]) =>
    works.filter((work) => only === null || obstacles(work).includes(only));
  const found = new Map(
    OBSTACLES.map((one) => [
      one,
      [...open, ...branches].filter((work) => obstacles(work).includes(one)).length,
    ]),
  );
  const part = (title: string, works: readonly ProjectWork[], none: string) => (
    <section aria-label={title} className="mb-6">
      <h2 className="mb-1 flex items-baseline gap-2 text-[15px]">
        {title} <span className="font-display tabular-nums text-ink-soft">{works.length}</span>
      </h2>
      {works.length === 0 ? (
        <p className="text-ink-soft">{none}</p>
      ) : (
        <ul className="work-rows">
          {works.map((work) => (
            <WorkRow key={work.id} work={work} settings={settings} zone={project.zone} now={now} />
          ))}
        </ul>
      )}
    </section>
  );
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Changes</h1>
        {view.heard && (
          <p className="text-ink-soft">
            {open.length === 0
              ? "nothing waits to be merged"
              : `${counted(open.length, "waits", "wait")} to be merged`}
          </p>
        )}
        <MainWords mains={view.mains} now={now} zone={project.zone} />
        <Obstacles found={found} only={only} onOnly={setOnly} />
        <span className="flex-1" />
        {view.strangers.length > 0 && (
          <Button look="quiet" onClick={() => setNaming(true)}>
            {counted(view.strangers.length, "unknown address", "unknown addresses")}
          </Button>
        )}
        {view.hostBeside && (
          <ButtonLink
            look="quiet"
            prefetch={false}
            target="_blank"
            rel="noreferrer noopener"
            href={addressOf(shipContract.enterHost, { query: {} })}
          >
            Code host
          </ButtonLink>
        )}
        {rights.settings && <Button onClick={() => setSettling(true)}>How code goes</Button>}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        {view.heard ? (
          <>
            {part(
              "Waits to be merged",
              shown(open),
              only === null
                ? "Nothing: every change is merged or given up."
                : "None of what waits has that.",
            )}
            {part(
              "Not proposed yet",
              shown(branches),
              only === null
                ? "No branch has anything that is not proposed to be merged."
                : "None of the branches has that.",
            )}
            {view.hidden > 0 && (
              <p className="mb-4 text-[13px] text-ink-soft">
                {counted(view.hidden, "more belongs", "more belong")} to items outside your view.
              </p>
            )}
            {merged.length > 0 && only === null && part("On main lately", merged, "")}
          </>
        ) : (
          <NothingHeard projectKey={project.key} mayEdit={rights.settings} />
        )}
      </div>
      <Sheet open={naming} onClose={() => setNaming(false)} title="Who commits">
        <Strangers handle={handle} />
      </Sheet>
      <Sheet open={settling} onClose={() => setSettling(false)} title="How code goes">
        <ShipSettingsForm
          settings={settings}
          onSend={handle.settle}
          onLeave={() => setSettling(false)}
        />
      </Sheet>
    </div>
  );
}

const WORDS: Record<Obstacle, string> = {
  "checks failed": "with failed checks",
  "does not merge cleanly": "not merging cleanly",
  "sent back": "sent back",
  "not looked at": "not looked at",
  "behind main": "behind main",
  old: "old",
};

/** What keeps how many from being merged; a press shows those alone. */
function Obstacles({
  found,
  only,
  onOnly,
}: {
  found: ReadonlyMap<Obstacle, number>;
  only: Obstacle | null;
  onOnly: (only: Obstacle | null) => void;
}) {
  return (
    <div
      className="flex flex-wrap items-center gap-1.5"
      role="group"
      aria-label="What stands against it"
    >
      {[...found].map(
        ([one, count]) =>
          (count > 0 || only === one) && (
            <button
              key={one}
              type="button"
              className="obstacle"
              data-grave={GRAVE.has(one) || undefined}
              aria-pressed={only === one}
              onClick={() => onOnly(only === one ? null : one)}
            >
              <b>{count}</b> {WORDS[one]}
            </button>
          ),
      )}
    </div>
  );
}

function NothingHeard({ projectKey, mayEdit }: { projectKey: string; mayEdit: boolean }) {
  return (
    <div className="mx-auto max-w-[560px] py-14 text-center">
      <p className="text-[15px] font-semibold">No code host tells this project anything yet.</p>
      <p className="mt-1 text-ink-soft">
        Once one does, its branches and changes stand here and with the items that they name, with
        what checks and reviewers said.
      </p>
      {mayEdit && (
        <ButtonLink className="mt-3" href={`/p/${projectKey}/design?place=events`}>
          Connect a code host
        </ButtonLink>
      )}
    </div>
  );
}
