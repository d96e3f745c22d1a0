"use client";
import { ProcessDesigner } from "./process-designer";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useSearchParams } from "next/navigation";
import type { DesignView } from "@/core/workflow/design-view";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";
import { PlacesToParts } from "@/ui/item/terms/places-to-parts";
import { TermsSection } from "@/ui/item/terms/terms-section";
import { DutyTable } from "@/ui/people/duty-table";
import { InvitationsSection } from "@/ui/people/invitations";
import { MemberTable } from "@/ui/people/member-table";
import { DesignHistory } from "./design-history";
import { LimitsSection } from "./limits-section";
import { BoardList } from "@/ui/board/board-list";
import { FieldTable } from "./field-table";
import { SourceTable } from "./source-table";
import { ProjectSettings } from "./project-settings";
import { TypeTable } from "./type-table";
import { useDesignRequest } from "./use-design-request";
import { workflowContract } from "@/core/workflow/contract";
import { queryOf, keyOf } from "@/ui/kit/request";

/** What belongs to the process of a project, each with its own address. */
const PLACES = [
  { param: "process", title: "Process" },
  { param: "fields", title: "Types and fields" },
  { param: "terms", title: "Labels and parts" },
  { param: "boards", title: "Boards" },
  { param: "people", title: "People" },
  { param: "events", title: "Events" },
  { param: "project", title: "Project" },
  { param: "history", title: "History" },
] as const;

/**
 * The process of a project: each workflow as a draft that binds nobody until it is published, and
 * what belongs to it.
 */
export function DesignScreen({ initial }: { initial: DesignView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: view } = useQuery({
    ...queryOf(workflowContract.design, { params: { key } }),
    initialData: initial,
  });
  const known = (message: { workflowId: string; revision: number }) =>
    (view.drafts.find((d) => d.workflowId === message.workflowId)?.revision ?? 0) ===
    message.revision;
  useReadAgain(
    (message) => ofDesign(message) || (message.kind === "draft" && !known(message)),
    () =>
      client.invalidateQueries({ queryKey: keyOf(workflowContract.design, { params: { key } }) }),
  );
  const address = useSearchParams();
  const wanted = address.get("place");
  const named = address.get("workflow");
  const workflow = view.workflows.find((w) => w.id === named) ?? mainWorkflow(view);
  /** Goes to another place of the process; the address says where one is. */
  const go = (parts: { place?: string; workflow?: string; part?: string; version?: string }) => {
    const query = new URLSearchParams(
      Object.entries(parts).filter((part): part is [string, string] => Boolean(part[1])),
    ).toString();
    window.history.replaceState(null, "", query ? `?${query}` : window.location.pathname);
  };
  const places = PLACES.filter((p) => p.param !== "history" || view.mayEdit);
  const place = places.find((p) => p.param === wanted) ?? PLACES[0];
  const send = useDesignRequest(key);
  return (
    <div className="flex h-full flex-col">
      <nav
        aria-label="What is designed"
        className="flex shrink-0 items-center gap-4 border-b border-line px-4"
      >
        {places.map((p) => (
          <button
            key={p.param}
            type="button"
            aria-current={p === place ? "page" : undefined}
            className={`py-1.5 text-[13px] ${p === place ? "border-b-2 border-accent font-semibold" : "border-b-2 border-transparent text-ink-soft hover:text-ink"}`}
            onClick={() =>
              go({ place: p.param === "process" ? "" : p.param, workflow: named ?? "" })
            }
          >
            {p.title}
          </button>
        ))}
      </nav>
      <div className="min-h-0 flex-1">
        {place.param === "process" ? (
          <ProcessDesigner
            key={workflow.id}
            view={view}
            workflowId={workflow.id}
            part={address.get("part")}
            onChoose={(id) => go({ workflow: id })}
            onPart={(part) => go({ workflow: named ?? "", part })}
            version={Number(address.get("version")) || null}
            onVersion={(version) =>
              go({ workflow: workflow.id, part: "Versions", version: version ? `${version}` : "" })
            }
          />
        ) : (
          <div className="h-full overflow-y-auto px-4 py-3">
            <h1 className="mb-3 text-[18px]">
              {place.param === "project"
                ? `${view.project.name} as a project`
                : `${place.title} of ${view.project.name}`}
            </h1>
            {place.param === "fields" && (
              <div className="flex max-w-[1100px] flex-col gap-8">
                <TypeTable view={view} send={send} />
                <FieldTable view={view} send={send} />
              </div>
            )}
            {place.param === "terms" && (
              <div className="flex max-w-[1100px] flex-col gap-8">
                <TermsSection projectKey={key} kind="label" people={view.people} />
                <TermsSection projectKey={key} kind="part" people={view.people} />
                <PlacesToParts projectKey={key} />
              </div>
            )}
            {place.param === "boards" && (
              <div className="flex max-w-[1100px] flex-col gap-8">
                <BoardList view={view} send={send} />
                <LimitsSection view={view} send={send} />
              </div>
            )}
            {place.param === "people" && (
              <div className="flex flex-col gap-8">
                <MemberTable projectKey={key} />
                {view.mayEdit && <InvitationsSection projectKey={key} />}
                <DutyTable projectKey={key} />
              </div>
            )}
            {place.param === "project" && (
              <ProjectSettings key={view.project.name} view={view} send={send} />
            )}
            {place.param === "events" && <SourceTable projectKey={key} />}
            {place.param === "history" && (
              <DesignHistory projectKey={key} zone={view.project.zone} />
            )}
          </div>
        )}
      </div>
    </div>
  );
}

/** The workflow that most of the board shows. */
function mainWorkflow(view: DesignView) {
  const shown = new Set(view.columns.flatMap((c) => c.stateIds));
  const onBoard = (w: DesignView["workflows"][number]) =>
    w.states.filter((s) => shown.has(s.id)).length;
  return [...view.workflows].sort((a, b) => onBoard(b) - onBoard(a))[0];
}
