"use client";
import { counted } from "@/core/formats/counted";
import { GRAVE, obstaclesOf, type ProjectWork } from "@/core/ship/open-work";
import type { ShipSettings } from "@/core/ship/ship-settings";
import { TextButton } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { usePanel } from "@/ui/kit/panel-context";
import { ago, exact } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { CommitList } from "./commit-list";
import { HostLink } from "./host-link";
import { useCommitsOpen } from "./use-commits-open";
import { WorkCourse } from "./work-course";
import { WorkWords } from "./work-words";

/** A piece of work in the list of a project: what it is for, how far it is, what stands against it. */
export function WorkRow({
  work,
  settings,
  zone,
  now,
}: {
  work: ProjectWork;
  settings: ShipSettings;
  zone: string;
  now: number;
}) {
  const { change, branch, branchUrl, commits, days, at, items } = work;
  const commitsOpen = useCommitsOpen();
  const merged = change?.status === "merged";
  const against = merged ? [] : obstaclesOf(work, settings.branchDays);
  const weight = against.some((one) => GRAVE.has(one)) ? "grave" : against[0] && "waits";
  const by = change?.by?.name ?? commits.at(-1)?.by.name ?? "";
  const name = branch ?? change?.name ?? "";
  return (
    <li className="work-row" data-branch={branch} data-against={weight}>
      {by ? <Initials name={by} size={24} /> : <span />}
      <div className="min-w-0">
        <WorkItems items={items} title={change?.title ?? ""} />
        <p className="flex items-baseline gap-2 text-[12.5px] text-ink-soft">
          <span className="key truncate" title={name}>
            <HostLink url={change ? null : branchUrl}>{name}</HostLink>
          </span>
          {change && (
            <span className="shrink-0">
              <HostLink url={change.url}>{change.name}</HostLink>
            </span>
          )}
        </p>
        <p className="text-[12.5px] text-ink-soft">
          <WorkWords work={work} name={name} commitsOpen={commitsOpen} />
        </p>
        {commitsOpen.open && (
          <div id={commitsOpen.list}>
            <CommitList commits={commits} zone={zone} now={now} />
          </div>
        )}
      </div>
      <WorkCourse work={work} />
      <p
        className={`text-right text-[13px] tabular-nums ${!merged && days > settings.branchDays ? "font-semibold text-signal-ink" : "text-ink-soft"}`}
        title={exact(at, zone)}
      >
        {merged ? `merged ${ago(change.endedAt ?? at, now)}` : `day ${days}`}
      </p>
    </li>
  );
}

/** The items that it is for; without any, what it calls itself. */
function WorkItems({ items, title }: { items: ProjectWork["items"]; title: string }) {
  const { openItem } = usePanel();
  if (items.length === 0)
    return (
      <p className="font-semibold">
        {title || "No item"}
        <span className="ml-2 text-[12.5px] font-normal text-ink-soft">names no item</span>
      </p>
    );
  const [first, ...others] = items;
  return (
    <p className="flex min-w-0 items-center gap-1.5">
      <TypeGlyph typeId={first.typeId} />
      <TextButton className="key shrink-0 !text-accent" onClick={() => openItem(first.key)}>
        {first.key}
      </TextButton>
      <span className="truncate font-semibold">{first.title}</span>
      {others.length > 0 && (
        <span className="shrink-0 text-[12.5px] text-ink-soft">
          and {counted(others.length, "other item")}:{" "}
          {others.map(({ key }) => (
            <TextButton key={key} className="key mr-1" onClick={() => openItem(key)}>
              {key}
            </TextButton>
          ))}
        </span>
      )}
    </p>
  );
}
