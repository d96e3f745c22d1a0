"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Column } from "@/core/board/column";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { request } from "@/ui/kit/request";
import { exact } from "@/ui/kit/time";
import { useLive } from "@/ui/kit/use-live";
import { MemberTable } from "@/ui/people/member-table";
import { LimitTable, type LimitEdit } from "./limit-table";
import { RailMap } from "./rail-map";
import { StateTable, type EditSent } from "./state-table";
import type { DesignView } from "./types";

/** The process of a project: its map, its states, and the limits of its board. Every change is in force at once. */
export function DesignScreen({ initial }: { initial: DesignView }) {
  const client = useQueryClient();
  const { key, zone, name } = initial.project;
  const { data: view } = useQuery({ queryKey: ["design", key], queryFn: () => request<DesignView>(`/api/projects/${key}/workflow`), initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: ["design", key] });
  useLive((message) => {
    if (message.kind === "design" || message.kind === "resync") void readAgain();
  });
  const [chosen, setChosen] = useState(() => mainWorkflow(initial).id);
  const workflow = view.workflows.find((w) => w.id === chosen) ?? mainWorkflow(view);

  const run = async (path: string, body: unknown, done: string): Promise<boolean> => {
    try {
      await request(path, { body });
      await readAgain();
      tellDone(done);
      return true;
    } catch (error) {
      tellProblem(error);
      await readAgain();
      return false;
    }
  };
  const editStates = (edit: EditSent) => run(`/api/projects/${key}/workflow`, { workflowId: workflow.id, seenVersion: workflow.version, edit }, "The process has changed; open boards follow.");
  const editLimit = (column: Column, edit: LimitEdit) =>
    run(`/api/projects/${key}/columns`, { columnId: column.id, seenVersion: view.board.version, ...edit }, "The limit has changed; open boards follow.");
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Process of {name}</h1>
        <div role="group" aria-label="Workflow" className="flex gap-1.5">
          {view.workflows.map((w) => (
            <button key={w.id} type="button" aria-pressed={w.id === workflow.id} className={`button ${w.id === workflow.id ? "button-strong" : ""}`} onClick={() => setChosen(w.id)}>
              {w.typeNames.join(", ")}
            </button>
          ))}
        </div>
        <p className="text-ink-soft">
          {workflow.name}, version {workflow.version}
          {!view.mayEdit && " · you can look; a lead can change it"}
        </p>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="border-b border-line px-4 pt-3">
          <RailMap workflow={workflow} counts={view.counts} />
        </div>
        <div className="grid gap-8 px-4 py-4 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
          <section>
            <h2 className="mb-1 text-[15px]">States and moves</h2>
            <StateTable key={workflow.id} workflow={workflow} counts={view.counts} mayEdit={view.mayEdit} onEdit={editStates} />
          </section>
          <div className="flex flex-col gap-6">
            <section>
              <h2 className="mb-1 text-[15px]">Limits of the board “{view.board.name}”</h2>
              <p className="mb-2 text-[12.5px] text-ink-soft">Advice is shown on the board. A firm limit refuses the move unless a lead gives a reason.</p>
              <LimitTable columns={view.columns} counts={view.counts} mayEdit={view.mayEdit} onEdit={editLimit} />
            </section>
            <section>
              <h2 className="mb-1 text-[15px]">People</h2>
              <MemberTable projectKey={key} />
            </section>
            <section>
              <h2 className="mb-1 text-[15px]">Versions</h2>
              <ol className="flex flex-col gap-1">
                {view.versions.filter((v) => v.workflowId === workflow.id).map((v) => (
                  <li key={v.version} className="text-[13px]">
                    <b>{v.version}</b> {v.summary} <span className="text-ink-soft">{v.by ?? "somebody"}, {exact(v.at, zone)}</span>
                  </li>
                ))}
              </ol>
            </section>
          </div>
        </div>
      </div>
    </div>
  );
}

/** The workflow that most of the board shows. */
function mainWorkflow(view: DesignView) {
  const shown = new Set(view.columns.flatMap((c) => c.stateIds));
  const onBoard = (w: DesignView["workflows"][number]) => w.states.filter((s) => shown.has(s.id)).length;
  return [...view.workflows].sort((a, b) => onBoard(b) - onBoard(a))[0];
}
