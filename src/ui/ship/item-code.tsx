"use client";
import { Copy } from "lucide-react";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { CodeWork } from "@/core/ship/item-code";
import { TextButton } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";
import { exact, ago } from "@/ui/kit/time";
import type { ItemHandle } from "@/ui/item/use-item";
import { branchCopied } from "./copy-branch-name";
import { CommitList } from "./commit-list";
import { HostLink } from "./host-link";
import { ItemEnvironments } from "./item-environments";
import { useCommitsOpen } from "./use-commits-open";
import { WorkCourse } from "./work-course";
import { WorkWords } from "./work-words";

/** So many pieces of work stand there before the others are asked for. */
const SHOWN = 3;

/** What an item has in the code hosts, and what its next branch is called. */
export function ItemCodeSection({ handle }: { handle: ItemHandle }) {
  const { code, project, now } = handle.view;
  const { works, mentions, branchName, heard } = code;
  const [all, setAll] = useState(false);
  if (!heard && works.length === 0 && mentions.length === 0 && code.environments.length === 0)
    return null;
  const shown = all ? works : works.slice(0, SHOWN);
  return (
    <section aria-label="Code">
      <h3 className="mb-1 text-[13px]">Code</h3>
      {works.length === 0 && mentions.length === 0 && (
        <p className="mb-1 text-ink-soft">Nothing is pushed for it yet.</p>
      )}
      <ul className="flex flex-col gap-2.5">
        {shown.map((work) => (
          <WorkLine key={work.id} work={work} zone={project.zone} now={now} />
        ))}
      </ul>
      {works.length > shown.length && (
        <TextButton className="mt-1 text-[12.5px]" onClick={() => setAll(true)}>
          {counted(works.length - shown.length, "earlier one")}
        </TextButton>
      )}
      {mentions.length > 0 && (
        <div className="mt-2">
          <p className="text-[12.5px] text-ink-soft">named by</p>
          <CommitList commits={mentions} zone={project.zone} now={now} />
        </div>
      )}
      <ItemEnvironments environments={code.environments} zone={project.zone} now={now} />
      <BranchToCopy name={branchName} />
    </section>
  );
}

/** The name of the next branch; a press puts it on the clipboard. */
function BranchToCopy({ name }: { name: string }) {
  return (
    <p className="branch-to-copy">
      <span className="shrink-0 text-[12.5px] text-ink-soft">next branch</span>
      <button
        type="button"
        aria-label={`Copy the branch name ${name}`}
        title={name}
        onClick={() => void copyText(name, branchCopied(name))}
      >
        <code className="key truncate">{name}</code>
        <Copy size={13} aria-hidden="true" />
      </button>
    </p>
  );
}

const STATUS = { open: "open", merged: "merged", abandoned: "given up" } as const;

/** A branch with the change that it became, and its commits where they are wanted. */
function WorkLine({ work, zone, now }: { work: CodeWork; zone: string; now: number }) {
  const { branch, branchUrl, repository, change, commits, at } = work;
  const commitsOpen = useCommitsOpen();
  const status = change ? STATUS[change.status] : "not proposed yet";
  const name = branch ?? change?.name ?? "";
  return (
    <li className="work-line" data-branch={branch} data-status={status}>
      <p className="flex items-baseline gap-2">
        <span className="key min-w-0 flex-1 truncate !text-ink" title={name}>
          <HostLink url={change ? change.url : branchUrl}>{name}</HostLink>
        </span>
        <b
          className={`shrink-0 text-[12.5px] ${change?.status === "open" ? "text-signal-ink" : change?.status === "merged" ? "text-done" : "text-ink-soft"}`}
        >
          {status}
        </b>
      </p>
      <p className="flex flex-wrap items-center gap-x-3 text-[12.5px] text-ink-soft">
        <WorkCourse work={work} />
        <span title={at > 0 ? exact(at, zone) : undefined}>
          {[repository, change && change.name !== name ? change.name : null]
            .filter(Boolean)
            .join(", ")}
          {at > 0 && `, ${ago(at, now)}`}
        </span>
      </p>
      <p className="text-[12.5px] text-ink-soft">
        <WorkWords work={work} name={name} commitsOpen={commitsOpen} />
      </p>
      {commitsOpen.open && (
        <div id={commitsOpen.list}>
          <CommitList commits={commits} zone={zone} now={now} />
        </div>
      )}
    </li>
  );
}
