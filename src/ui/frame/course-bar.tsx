"use client";
import { counted } from "@/core/formats/counted";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { Mark } from "@/ui/kit/mark";
import { Alerts } from "./alerts";
import { Pins } from "./pins";
import { QuickReport } from "./quick-report";
import { PersonMenu } from "./person-menu";
import { ProjectMenu, type FrameProject } from "./project-menu";
import { SearchBox } from "./search-box";
import type { Theme } from "@/ui/kit/theme";

const STOPS = [
  { id: "design", name: "Design" },
  { id: "intake", name: "Intake" },
  { id: "plan", name: "Plan" },
  { id: "flow", name: "Flow" },
  { id: "learn", name: "Learn" },
] as const;

const STEP = 78;
const HIGH = 8;
const LOW = 19;

/** The top line: where I am on the course from designing the process to learning from it. */
export function CourseBar({
  project,
  projects,
  mayStartProjects,
  person,
  waiting,
  unread,
  showsIntake,
  theme,
}: {
  project: FrameProject;
  projects: FrameProject[];
  mayStartProjects: boolean;
  person: { name: string; administrator: boolean };
  waiting: number;
  unread: number;
  showsIntake: boolean;
  theme: Theme;
}) {
  const pathname = usePathname();
  const stops = STOPS.filter((s) => s.id !== "intake" || showsIntake);
  const points = stops
    .map((_, i) => `${STEP / 2 + i * STEP},${i % 2 === 0 ? HIGH : LOW}`)
    .join(" ");
  return (
    <header className="course-bar flex h-12 shrink-0 items-center gap-4 border-b border-line bg-sheet px-4 max-[860px]:h-auto max-[860px]:flex-wrap max-[860px]:gap-x-2 max-[860px]:gap-y-0 max-[860px]:px-2 max-[860px]:pt-1">
      <Link
        href={`/p/${project.key}/flow`}
        aria-label="Zigzag Lane, to the board"
        className="flex items-center"
      >
        <Mark />
      </Link>
      <ProjectMenu project={project} projects={projects} mayStart={mayStartProjects} />
      <nav
        aria-label="Course"
        className="relative ml-3 shrink-0 max-[860px]:order-last max-[860px]:mx-auto max-[860px]:mt-1"
        style={{ width: stops.length * STEP, height: 46 }}
      >
        <svg
          className="absolute inset-x-0 bottom-0"
          width={stops.length * STEP}
          height="26"
          aria-hidden="true"
        >
          <polyline
            points={points}
            fill="none"
            stroke="var(--accent)"
            strokeOpacity="0.65"
            strokeWidth="2"
          />
          {stops.map((stop, i) => {
            const current = pathname.startsWith(`/p/${project.key}/${stop.id}`);
            return (
              <circle
                key={stop.id}
                cx={STEP / 2 + i * STEP}
                cy={i % 2 === 0 ? HIGH : LOW}
                r={current ? 6 : 3.5}
                fill={current ? "var(--accent)" : "var(--sheet)"}
                stroke="var(--accent)"
                strokeWidth="2"
              />
            );
          })}
        </svg>
        <ul className="absolute inset-0 flex">
          {stops.map((stop) => {
            const current = pathname.startsWith(`/p/${project.key}/${stop.id}`);
            return (
              <li key={stop.id} style={{ width: STEP }}>
                <Link
                  prefetch={false}
                  href={`/p/${project.key}/${stop.id}`}
                  aria-current={current ? "page" : undefined}
                  className={`flex h-full items-start justify-center gap-1 pt-[3px] text-[13px] leading-none ${current ? "font-bold text-ink" : "text-ink-soft hover:text-ink"}`}
                >
                  <span>{stop.name}</span>
                  {stop.id === "intake" && waiting > 0 && (
                    <span
                      className="font-display text-[12px] font-bold text-signal-ink"
                      aria-label={`${counted(waiting, "report")} ${waiting === 1 ? "waits" : "wait"} for a verdict`}
                    >
                      {waiting}
                    </span>
                  )}
                </Link>
              </li>
            );
          })}
        </ul>
      </nav>
      <div className="ml-auto flex items-center gap-3 max-[860px]:gap-2">
        <SearchBox projectKey={project.key} />
        <Pins projectKey={project.key} />
        <QuickReport projectKey={project.key} />
        <Alerts projectKey={project.key} unread={unread} />
        <PersonMenu person={person} theme={theme} />
      </div>
    </header>
  );
}
