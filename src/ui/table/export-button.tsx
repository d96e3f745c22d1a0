"use client";
import { useRef, useState } from "react";
import { listContract } from "@/core/item/list/contract";
import { tableAsked } from "@/core/item/list/table";
import { Button } from "@/ui/kit/button";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { saveFile } from "@/ui/kit/save-file";
import type { LookHandle } from "@/ui/view/use-look";
import { lookName } from "@/ui/view/view-switch";

/** All rows as a file of comma-separated values, part by part: it tells how far it is. */
export function ExportButton({ handle, total }: { handle: LookHandle; total: number }) {
  const [done, setDone] = useState<number | null>(null);
  const stopped = useRef(false);
  const run = async () => {
    const { board, condition, sort, group, columns } = tableAsked(handle.look);
    const asked = { board, condition, sort, group, columns };
    const params = { key: handle.projectKey };
    const parts: string[] = [];
    let from: { after: string | null; at: number | null } = { after: null, at: null };
    let rows = 0;
    stopped.current = false;
    setDone(0);
    try {
      do {
        const part = await ask(listContract.export, { params, body: { ...asked, ...from } });
        parts.push(part.csv);
        rows += part.rows;
        setDone(rows);
        from = { after: part.next, at: part.at };
      } while (from.after !== null && !stopped.current);
      if (!stopped.current) {
        saveFile(`${lookName(handle)}.csv`, parts, "text/csv");
        tellDone(`${rows.toLocaleString("en")} rows are in the file.`);
      }
    } catch (error) {
      tellProblem(error);
    }
    setDone(null);
  };
  return done === null ? (
    <Button onClick={() => void run()} disabled={total === 0}>
      Export
    </Button>
  ) : (
    <span role="status" className="flex items-center gap-2 text-[13px]">
      {done.toLocaleString("en")} of {total.toLocaleString("en")}
      <Button small onClick={() => (stopped.current = true)}>
        Stop
      </Button>
    </span>
  );
}
