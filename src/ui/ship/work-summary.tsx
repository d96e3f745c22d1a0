"use client";
import type { CodeWork } from "@/core/ship/item-code";
import { HostLink } from "./host-link";
import { useCommitsOpen } from "./use-commits-open";
import { WorkCourse } from "./work-course";
import { WorkWords } from "./work-words";

/** A piece of work in two lines, with a way to where it can be read. */
export function WorkSummary({ work }: { work: CodeWork }) {
  const { change, branch, commits } = work;
  const commitsOpen = useCommitsOpen();
  const name = change?.name ?? branch ?? "";
  return (
    <div className="mt-0.5">
      <p className="flex flex-wrap items-center gap-x-2 text-[12.5px] text-ink-soft">
        <WorkCourse work={work} />
        <span>
          <HostLink url={change?.url ?? null}>{name}</HostLink>
        </span>
        <span>
          <WorkWords work={work} name={name} commitsOpen={commitsOpen} />
        </span>
      </p>
      {commitsOpen.open && (
        <ul id={commitsOpen.list} className="ml-1 text-[12.5px]">
          {commits.map(({ hash, subject, by }) => (
            <li key={hash}>
              {subject} <span className="text-ink-soft">{by.name}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
