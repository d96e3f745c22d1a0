"use client";
import { timelinePages, timelineSvg } from "@/core/timeline/svg";
import type { TimelineView } from "@/core/timeline/view";
import { Button } from "@/ui/kit/button";
import { tellDone } from "@/ui/kit/notice";
import { saveFile } from "@/ui/kit/save-file";
import type { LookHandle } from "@/ui/view/use-look";
import { lookName } from "@/ui/view/view-switch";
import type { Drawn } from "./use-drawn";

/** All rows as a drawing, as a file or on paper. */
export function TimelineFile({
  handle,
  view,
  drawn: { rows, range, day },
}: {
  handle: LookHandle;
  view: TimelineView;
  drawn: Drawn;
}) {
  const name = lookName(handle);
  const drawing = () => timelineSvg(view, { name, rows, range, day });
  const pages = () => timelinePages(view, { name, rows, range });
  const save = () => {
    saveFile(`${name}.svg`, [drawing()], "image/svg+xml");
    tellDone(`“${name}” is in the file.`);
  };
  return (
    <>
      <Button look="quiet" small disabled={rows.length === 0} onClick={save}>
        Save drawing
      </Button>
      <Button look="quiet" small disabled={rows.length === 0} onClick={() => print(pages())}>
        Print
      </Button>
    </>
  );
}

/** Prints drawings by themselves, each on a page of its own. */
function print(pages: readonly string[]): void {
  const frame = document.createElement("iframe");
  frame.title = "What is printed";
  frame.style.cssText = "position:fixed;width:0;height:0;border:0";
  document.body.append(frame);
  const page = frame.contentDocument!;
  const style = page.createElement("style");
  style.textContent =
    "@page{size:landscape;margin:8mm}body{margin:0}svg{width:100%;height:auto;display:block;break-after:page}svg:last-child{break-after:auto}";
  page.head.append(style);
  for (const svg of pages) {
    const drawing = new DOMParser().parseFromString(svg, "image/svg+xml").documentElement;
    page.body.append(page.importNode(drawing, true));
  }
  frame.contentWindow!.addEventListener("afterprint", () => frame.remove());
  frame.contentWindow!.print();
}
