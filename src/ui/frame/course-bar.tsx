"use client";
import { counted } from "@/core/formats/counted";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { Mark } from "@/ui/kit/mark";
import { AlertsBell } from "@/ui/alerts/alerts-bell";
import { Course, COURSE_BAR } from "./course";
import { Pins } from "./pins";
import { QuickReport } from "./quick-report";
import { PersonMenu } from "./person-menu";
import { ProjectMenu, type FrameProject } from "./project-menu";
import { FindBox } from "@/ui/find/find-box";
import type { Theme } from "@/ui/kit/theme";

const STOPS = [
  { id: "today", name: "Today" },
  { id: "design", name: "Design" },
  { id: "intake", name: "Intake" },
  { id: "plan", name: "Plan" },
  { id: "flow", name: "Flow" },
  { id: "ship", name: "Ship" },
  { id: "learn", name: "Learn" },
] as const;

/** The top line: where I am on the course from designing the process to learning from it. */
export function CourseBar({
  project,
  projects,
  projectsPutAway,
  mayStartProjects,
  person,
  waiting,
  freshAlerts,
  waitingToday,
  showsIntake,
  theme,
}: {
  project: FrameProject;
  projects: FrameProject[];
  projectsPutAway: FrameProject[];
  mayStartProjects: boolean;
  person: { name: string; administrator: boolean };
  waiting: number;
  freshAlerts: number;
  waitingToday: number;
  showsIntake: boolean;
  theme: Theme;
}) {
  const pathname = usePathname();
  const stops = STOPS.filter((s) => s.id !== "intake" || showsIntake);
  return (
    <header className={COURSE_BAR}>
      <Link
        href={`/p/${project.key}/flow`}
        aria-label="Zigzag Lane, to the board"
        className="flex items-center"
      >
        <Mark />
      </Link>
      <ProjectMenu
        project={project}
        projects={projects}
        putAway={projectsPutAway}
        mayStart={mayStartProjects}
      />
      <Course
        label="Course"
        stops={stops.map(({ id, name }) => ({
          id,
          name,
          href: `/p/${project.key}/${id}`,
          current: pathname.startsWith(`/p/${project.key}/${id}`),
          note: noteOf(id, { waiting, waitingToday }),
        }))}
      />
      <div className="ml-auto flex items-center gap-3 max-[860px]:gap-2">
        <FindBox at={project.key} />
        <Pins projectKey={project.key} />
        <QuickReport projectKey={project.key} />
        <AlertsBell projectKey={project.key} initial={freshAlerts} />
        <PersonMenu person={person} theme={theme} />
      </div>
    </header>
  );
}

/** What waits for this person at a stop. */
function noteOf(
  stop: string,
  { waiting, waitingToday }: { waiting: number; waitingToday: number },
) {
  if (stop === "today" && waitingToday > 0)
    return <Waiting count={waitingToday} words={`${counted(waitingToday, "thing")} for you`} />;
  if (stop === "intake" && waiting > 0)
    return (
      <Waiting
        count={waiting}
        words={`${counted(waiting, "report")} ${waiting === 1 ? "waits" : "wait"} for a verdict`}
      />
    );
  return null;
}

function Waiting({ count, words }: { count: number; words: string }) {
  return (
    <span className="font-display text-[12px] font-bold text-signal-ink" aria-label={words}>
      {count}
    </span>
  );
}
