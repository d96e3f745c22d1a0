"use client";
import { Note } from "@/ui/kit/note";
import { FilePick } from "@/ui/kit/file-pick";
import { Field } from "@/ui/kit/field";
import { Button, ButtonLink } from "@/ui/kit/button";
import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { decodeText } from "@/core/formats/decode-text";
import {
  matchColumns,
  readTable,
  reportsOf,
  type ColumnMatch,
  type Table,
} from "@/core/formats/report-table";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { tellProblem } from "@/ui/kit/notice";
import { v7 as newId } from "uuid";
import { intakeContract } from "@/core/intake/contract";
import { ask, keyOf } from "@/ui/kit/request";
import { ImportPlan } from "@/ui/intake/import-plan";

const AT_ONCE = 250;
const INTRO =
  "A file of comma-separated values whose first line names the columns. Nothing is stored before you have seen what would come of it, and no mail is sent to anybody whose address stands in it.";

/** The day of today where the one who imports is. */
const today = () =>
  isoDate(dayNumber(Date.now(), Intl.DateTimeFormat().resolvedOptions().timeZone));

type Stage =
  | { kind: "choose" }
  | { kind: "match" }
  | { kind: "running"; done: number }
  | { kind: "done"; done: number; stopped: boolean; takenBack: number | null };

/**
 * Reports from a table: choose the file, say which column is what, see what would come of it, then
 * take it in.
 */
export function ImportScreen({ projectKey }: { projectKey: string }) {
  const [table, setTable] = useState<Table | null>(null);
  const [match, setMatch] = useState<ColumnMatch | null>(null);
  const [trouble, setTrouble] = useState("");
  const [stage, setStage] = useState<Stage>({ kind: "choose" });
  const [importId, setImportId] = useState(() => newId());
  const cancelled = useRef(false);
  const client = useQueryClient();
  const { reports, problems } = useMemo(
    () =>
      table && match && match.title !== null
        ? reportsOf(table, match, today())
        : { reports: [], problems: [] },
    [table, match],
  );
  const params = { key: projectKey };
  const choose = async (file: File) => {
    setTrouble("");
    try {
      const read = readTable(decodeText(new Uint8Array(await file.arrayBuffer())).text);
      setTable(read);
      setMatch(matchColumns(read));
      setImportId(newId());
      setStage({ kind: "match" });
    } catch (error) {
      setTable(null);
      setStage({ kind: "choose" });
      setTrouble((error as Error).message);
    }
  };
  const run = async () => {
    cancelled.current = false;
    let done = 0;
    setStage({ kind: "running", done });
    try {
      for (let part = 0; part * AT_ONCE < reports.length && !cancelled.current; part++) {
        const chunk = reports.slice(part * AT_ONCE, (part + 1) * AT_ONCE).map((r) => r.report);
        await ask(intakeContract.import, {
          params,
          body: { kind: "import", importId, part, reports: chunk },
        });
        done += chunk.length;
        setStage({ kind: "running", done });
      }
    } catch (error) {
      tellProblem(error);
      cancelled.current = true;
    }
    await client.invalidateQueries({ queryKey: keyOf(intakeContract.desk, { params }) });
    setStage({ kind: "done", done, stopped: cancelled.current, takenBack: null });
  };
  const takeBack = async (done: number, stopped: boolean) => {
    try {
      const { changed } = await ask(intakeContract.import, {
        params,
        body: { kind: "take back", importId },
      });
      await client.invalidateQueries({ queryKey: keyOf(intakeContract.desk, { params }) });
      setStage({ kind: "done", done, stopped, takenBack: changed });
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <h1 className="text-[18px]">Import reports from a table</h1>
      <p className="mb-3 max-w-[70ch] text-[13px] text-ink-soft">{INTRO}</p>
      {(stage.kind === "choose" || stage.kind === "match") && (
        <Field label="The file">
          <FilePick
            accept=".csv,.tsv,.txt,text/csv"
            onFiles={([file]) => file && void choose(file)}
          />
        </Field>
      )}
      {trouble && (
        <Note kind="problem" className="mt-2">
          <b>{trouble}</b> Nothing was stored.
        </Note>
      )}
      {stage.kind === "match" && table && match && (
        <ImportPlan
          table={table}
          match={match}
          onMatch={setMatch}
          reports={reports}
          problems={problems}
          onRun={() => void run()}
        />
      )}
      {stage.kind === "running" && (
        <section aria-label="Importing" className="mt-4 flex items-center gap-4">
          <progress
            value={stage.done}
            max={reports.length}
            className="w-72 accent-(--accent)"
            aria-label="Imported"
          />
          <span role="status">
            {stage.done} of {reports.length}
          </span>
          <Button small onClick={() => (cancelled.current = true)}>
            Stop
          </Button>
        </section>
      )}
      {stage.kind === "done" && (
        <ImportEnd
          stage={stage}
          wanted={reports.length}
          projectKey={projectKey}
          onTakeBack={() => void takeBack(stage.done, stage.stopped)}
        />
      )}
    </div>
  );
}

/** What was taken in, and the way to take it back. */
function ImportEnd({
  stage,
  wanted,
  projectKey,
  onTakeBack,
}: {
  stage: Extract<Stage, { kind: "done" }>;
  wanted: number;
  projectKey: string;
  onTakeBack: () => void;
}) {
  return (
    <section aria-label="Imported" className="mt-4 flex flex-col gap-2" role="status">
      <p>
        <b>{stage.done}</b> {stage.done === 1 ? "report is" : "reports are"} in the queue
        {stage.stopped && `; it was stopped before the other ${wanted - stage.done}`}.
      </p>
      {stage.takenBack !== null && (
        <p>
          <b>{stage.takenBack}</b> were taken back
          {stage.takenBack < stage.done && "; the others have been judged meanwhile and stay"}.
        </p>
      )}
      <div className="flex gap-2">
        <ButtonLink href={`/p/${projectKey}/intake`}>To the triage desk</ButtonLink>
        {stage.takenBack === null && stage.done > 0 && (
          <Button look="quiet" onClick={onTakeBack}>
            Take the import back
          </Button>
        )}
      </div>
    </section>
  );
}
