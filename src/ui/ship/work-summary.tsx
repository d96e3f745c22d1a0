"use client";
import { useId, useState } from "react";
import type { CodeWork } from "@/core/ship/item-code";
import { WorkCourse } from "./work-course";
import { WorkWords } from "./work-words";

/** A piece of work in two lines, with a way to where it can be read. */
export function WorkSummary({ work }: { work: CodeWork }) {
  const { change, branch, commits } = work;
  const [open, setOpen] = useState(false);
  const list = useId();
  const name = change?.name ?? branch ?? "";
  return (
    <div className="mt-0.5">
      <p className="flex flex-wrap items-center gap-x-2 text-[12.5px] text-ink-soft">
        <WorkCourse work={work} />
        {change?.url ? (
          <a className="link" href={change.url} target="_blank" rel="noreferrer noopener">
            {name}
          </a>
        ) : (
          <span>{name}</span>
        )}
        <span>
          <WorkWords
            work={work}
            name={name}
            commitsOpen={{ open, list, turn: () => setOpen(!open) }}
          />
        </span>
      </p>
      {open && (
        <ul id={list} className="ml-1 text-[12.5px]">
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
