"use client";
import { counted } from "@/core/formats/counted";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import dynamic from "next/dynamic";
import { useSearchParams } from "next/navigation";
import { useEffect, useState } from "react";
import type { Column } from "@/core/board/column";
import type { DesignView } from "@/core/workflow/design-view";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { exact } from "@/ui/kit/time";
import { useLive } from "@/ui/kit/use-live";
import { MemberTable } from "@/ui/people/member-table";
import { BoardList } from "@/ui/board/board-list";
import { FieldTable } from "./field-table";
import { FindingsList } from "./findings-list";
import { LimitTable, type LimitEdit } from "./limit-table";
import { MoveGrid } from "./move-grid";
import { PublishSheet } from "./publish-sheet";
import { ReplayPanel } from "./replay-panel";
import { StateInspector } from "./state-inspector";
import { SourceTable } from "./source-table";
import { TypeTable } from "./type-table";
import { useDesignRequest } from "./use-design-request";
import { useDesigner } from "./use-designer";
import { ExportMenu, NewWorkflow } from "./workflow-menu";
import { boardContract } from "@/core/board/contract";
import { workflowContract } from "@/core/workflow/contract";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

const PARTS = ["Rules", "Table", "Try it", "Versions"] as const;
type Part = (typeof PARTS)[number];

/** What belongs to the process of a project, each with its own address. */
const PLACES = [
  { param: "process", title: "Process" },
  { param: "fields", title: "Types and fields" },
  { param: "boards", title: "Boards" },
  { param: "people", title: "People" },
  { param: "events", title: "Events" },
] as const;

// Only who designs loads the map and the rules' editors.
const WorkflowMap = dynamic(() => import("./workflow-map").then((m) => m.WorkflowMap), {
  ssr: false,
  loading: () => <p className="p-4 text-ink-soft">Drawing the map…</p>,
});
const TryPanel = dynamic(() => import("./try-panel").then((m) => m.TryPanel), { ssr: false });
const TransitionInspector = dynamic(
  () => import("./transition-inspector").then((m) => m.TransitionInspector),
  { ssr: false },
);

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
  useLive((message) => {
    if (message.kind === "design" || message.kind === "resync")
      void client.invalidateQueries({
        queryKey: keyOf(workflowContract.design, { params: { key } }),
      });
  });
  const [chosen, setChosen] = useState(() => mainWorkflow(initial).id);
  const workflow = view.workflows.find((w) => w.id === chosen) ?? mainWorkflow(view);
  const wanted = useSearchParams().get("place");
  const place = PLACES.find((p) => p.param === wanted) ?? PLACES[0];
  const send = useDesignRequest(key);
  return (
    <div className="flex h-full flex-col">
      <nav
        aria-label="What is designed"
        className="flex shrink-0 items-center gap-4 border-b border-line px-4"
      >
        {PLACES.map((p) => (
          <button
            key={p.param}
            type="button"
            aria-current={p === place ? "page" : undefined}
            className={`py-1.5 text-[13px] ${p === place ? "border-b-2 border-accent font-semibold" : "border-b-2 border-transparent text-ink-soft hover:text-ink"}`}
            onClick={() =>
              window.history.replaceState(
                null,
                "",
                p.param === "process" ? window.location.pathname : `?place=${p.param}`,
              )
            }
          >
            {p.title}
          </button>
        ))}
      </nav>
      <div className="min-h-0 flex-1">
        {place.param === "process" ? (
          <Designing key={workflow.id} view={view} workflowId={workflow.id} onChoose={setChosen} />
        ) : (
          <div className="h-full overflow-y-auto px-4 py-3">
            <h1 className="mb-3 text-[18px]">
              {place.title} of {view.project.name}
            </h1>
            {place.param === "fields" && (
              <div className="flex max-w-[1100px] flex-col gap-8">
                <TypeTable view={view} send={send} />
                <FieldTable view={view} send={send} />
              </div>
            )}
            {place.param === "boards" && (
              <div className="flex max-w-[1100px] flex-col gap-8">
                <BoardList view={view} send={send} />
                <BoardLimits view={view} />
              </div>
            )}
            {place.param === "people" && <MemberTable projectKey={key} />}
            {place.param === "events" && <SourceTable projectKey={key} />}
          </div>
        )}
      </div>
    </div>
  );
}

/** Limits of the board's columns, in force at once. */
function BoardLimits({ view }: { view: DesignView }) {
  const client = useQueryClient();
  const { key } = view.project;
  const editLimit = async (column: Column, edit: LimitEdit): Promise<boolean> => {
    try {
      await ask(boardContract.limit, {
        params: { key },
        body: { columnId: column.id, seenVersion: view.board.version, ...edit },
      });
      tellDone("The limit has changed; open boards follow.");
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      await client.invalidateQueries({
        queryKey: keyOf(workflowContract.design, { params: { key } }),
      });
    }
  };
  return (
    <section aria-label="Limits">
      <h2 className="text-[15px]">Limits</h2>
      <p className="mb-2 text-[12.5px] text-ink-soft">
        Limits of the board “{view.board.name}” are in force at once. Advice is shown on the board;
        a firm limit refuses the move unless a lead gives a reason.
      </p>
      <LimitTable
        columns={view.columns}
        counts={view.counts}
        mayEdit={view.mayEdit}
        onEdit={editLimit}
      />
    </section>
  );
}

function Designing({
  view,
  workflowId,
  onChoose,
}: {
  view: DesignView;
  workflowId: string;
  onChoose: (id: string) => void;
}) {
  const designer = useDesigner(view, workflowId);
  const { key, name, zone } = view.project;
  const { running, draft, changes, selection, saving, findings } = designer;
  const [part, setPart] = useState<Part>("Rules");
  const [publishing, setPublishing] = useState(false);
  const { undo, redo } = designer;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        !(event.ctrlKey || event.metaKey) ||
        /^(INPUT|TEXTAREA)$/.test((event.target as HTMLElement).tagName)
      )
        return;
      const letter = event.key.toLowerCase();
      const step =
        letter === "y" || (letter === "z" && event.shiftKey) ? redo : letter === "z" ? undo : null;
      if (!step) return;
      event.preventDefault();
      step();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);

  const state =
    selection?.kind === "state" ? draft.states.find((s) => s.id === selection.id) : undefined;
  const transition =
    selection?.kind === "transition"
      ? draft.transitions.find((t) => t.id === selection.id)
      : undefined;
  const mayEdit = view.mayEdit;
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-b border-line px-4 py-2">
        <h1 className="sr-only">Process of {name}</h1>
        <select
          className="field !w-auto max-w-[220px] font-semibold"
          aria-label="Workflow"
          value={workflowId}
          onChange={(e) => onChoose(e.target.value)}
        >
          {view.workflows.map((w) => (
            <option key={w.id} value={w.id}>
              {w.name}
              {w.typeNames.length > 0 ? ` (${w.typeNames.join(", ")})` : ", no type yet"}
            </option>
          ))}
        </select>
        <p className="min-w-0 text-[13px] text-ink-soft" role="status">
          {!mayEdit
            ? `version ${running.version} · you can look; a lead can change it`
            : changes.length === 0
              ? `version ${running.version} is in force, nothing changed`
              : `${counted(changes.length, "change")} since version ${running.version}, not published, ${saving === "stored" ? "draft stored" : saving === "failed" ? "not stored yet" : "storing…"}`}
        </p>
        <span className="flex-1" />
        <ExportMenu projectKey={key} workflowId={workflowId} hasDraft={changes.length > 0} />
        {mayEdit && (
          <>
            <NewWorkflow view={view} onMade={onChoose} />
            <button
              type="button"
              className="button button-small"
              disabled={!undo}
              onClick={() => undo?.()}
            >
              <Undo2 size={14} aria-hidden="true" /> Undo
            </button>
            <button
              type="button"
              className="button button-small"
              disabled={!redo}
              onClick={() => redo?.()}
            >
              <Redo2 size={14} aria-hidden="true" /> Redo
            </button>
            {changes.length > 0 && (
              <button
                type="button"
                className="button button-small button-quiet"
                onClick={() => void designer.discard()}
              >
                Throw the draft away
              </button>
            )}
            <button
              type="button"
              className="button button-strong"
              disabled={changes.length === 0}
              onClick={() => setPublishing(true)}
            >
              Review and publish
            </button>
          </>
        )}
      </div>
      {publishing ? (
        <div className="min-h-0 flex-1 overflow-y-auto p-5">
          <PublishSheet
            designer={designer}
            counts={view.counts}
            onClose={() => setPublishing(false)}
          />
        </div>
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_270px]">
          <div className="flex min-h-0 flex-col">
            <div className="h-[46%] min-h-[240px] shrink-0 border-b border-line">
              <WorkflowMap designer={designer} counts={view.counts} mayEdit={mayEdit} />
            </div>
            <div
              role="tablist"
              aria-label="Parts of the process"
              className="flex shrink-0 gap-1 border-b border-line px-3 pt-1"
            >
              {PARTS.map((p) => (
                <button
                  key={p}
                  type="button"
                  role="tab"
                  aria-selected={part === p}
                  className={`px-2 py-1 text-[13px] ${part === p ? "border-b-2 border-accent font-semibold" : "text-ink-soft hover:text-ink"}`}
                  onClick={() => setPart(p)}
                >
                  {p}
                </button>
              ))}
            </div>
            <div
              role="tabpanel"
              aria-label={part}
              className="min-h-0 flex-1 overflow-y-auto px-4 py-3"
            >
              {part === "Rules" &&
                (state ? (
                  <StateInspector
                    key={state.id}
                    designer={designer}
                    state={state}
                    around={view.around}
                    mayEdit={mayEdit}
                  />
                ) : transition ? (
                  <TransitionInspector
                    key={transition.id}
                    designer={designer}
                    transition={transition}
                    around={view.around}
                    mayEdit={mayEdit}
                  />
                ) : (
                  <p className="max-w-[60ch] text-ink-soft">
                    Choose a state or a move on the map to see what is agreed there.{" "}
                    {mayEdit &&
                      "Drag a state along to reorder it, or to the other rail; drag from the small ring beside it to connect it to another."}
                  </p>
                ))}
              {part === "Table" && (
                <MoveGrid designer={designer} counts={view.counts} mayEdit={mayEdit} />
              )}
              {part === "Try it" && <TryPanel draft={draft} view={view} />}
              {part === "Versions" && (
                <ol className="flex flex-col" aria-label="Versions">
                  {view.versions
                    .filter((v) => v.workflowId === workflowId)
                    .map((v) => (
                      <li
                        key={v.version}
                        className="flex items-start gap-3 border-b border-line py-1.5 text-[13px]"
                      >
                        <b className="w-6 text-right">{v.version}</b>
                        <span className="flex-1">
                          {v.summary}{" "}
                          <span className="text-ink-soft">
                            {v.by ?? "somebody"}, {exact(v.at, zone)}
                          </span>
                        </span>
                        {mayEdit && v.version !== running.version && (
                          <button
                            type="button"
                            className="button button-small"
                            onClick={() => void designer.takeVersion(v.version)}
                          >
                            Make it the draft
                          </button>
                        )}
                      </li>
                    ))}
                </ol>
              )}
            </div>
          </div>
          <aside
            className="min-h-0 overflow-y-auto border-l border-line bg-sheet px-4 py-3"
            aria-label="Findings"
          >
            <FindingsList designer={designer} mayEdit={mayEdit} />
            {mayEdit && (
              <ReplayPanel
                designer={designer}
                projectKey={key}
                workflowId={workflowId}
                nameOf={(id) => view.people.find((p) => p.id === id)?.name ?? "somebody"}
              />
            )}
            <p className="sr-only" role="status">
              {findings.length} findings
            </p>
          </aside>
        </div>
      )}
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
