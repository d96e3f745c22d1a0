"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, type ReactNode } from "react";
import { AskedFirstSheet } from "@/ui/item/asked-first";
import { AskedWhy } from "@/ui/item/asked-why";
import type { Pin } from "@/core/item/pins/pin";
import type { TermsView } from "@/core/item/terms/view";
import { useFirstTerms } from "@/ui/item/terms/use-terms";
import { useFirstPins } from "@/ui/item/use-pins";
import type { SizeScale } from "@/core/plan/size-scale";
import { PanelProvider } from "@/ui/kit/panel-context";
import { SizesProvider } from "@/ui/kit/sizes";
import { KnownTypes, type KnownType } from "@/ui/kit/type-glyph";
import { useLive, useLiveStream } from "@/ui/kit/use-live";
import { CourseBar } from "./course-bar";
import { Docked } from "./docked";
import type { FrameProject } from "./project-menu";
import { ToContent } from "./to-content";
import { PulseStrip } from "./pulse-strip";
import { PutAwayNote } from "./put-away-note";
import type { Theme } from "@/ui/kit/theme";
import type { PictureAddresses } from "@/core/people/picture";
import { KnownPictures } from "@/ui/people/known-pictures";
import { tradesLine } from "@/core/people/trade";
import type { ProjectSummary } from "@/core/flow/summary";
import { flowContract } from "@/core/flow/contract";
import { OptionNotes, type OptionNote } from "@/ui/kit/option-notes";
import { useSummary } from "@/ui/flow/use-summary";
import { todayContract } from "@/core/today/contract";
import { keyOf, queryOf } from "@/ui/kit/request";

const SETTLE_MS = 700;

/**
 * The frame of all pages of a project: course bar, the page, what is docked at its right, pulse
 * strip.
 */
export function ProjectFrame(props: {
  project: FrameProject;
  projects: FrameProject[];
  projectsPutAway: FrameProject[];
  /** When this one was put away; null while it is not. */
  putAway: { at: number; mayBringBack: boolean } | null;
  mayStartProjects: boolean;
  person: { name: string; administrator: boolean };
  theme: Theme;
  showsIntake: boolean;
  summary: ProjectSummary;
  freshAlerts: number;
  waitingToday: number;
  types: readonly KnownType[];
  lastEventId: number;
  pins: Pin[];
  terms: TermsView;
  sizes: SizeScale;
  pictures: PictureAddresses;
  children: ReactNode;
}) {
  useFirstPins(props.pins);
  useFirstTerms(props.project.key, props.terms);
  return (
    <KnownTypes types={props.types}>
      <SizesProvider scale={props.sizes}>
        <KnownPictures first={props.pictures}>
          <PanelProvider>
            <Frame {...props} />
          </PanelProvider>
        </KnownPictures>
      </SizesProvider>
    </KnownTypes>
  );
}

function Frame({
  project,
  projects,
  projectsPutAway,
  putAway,
  mayStartProjects,
  person,
  theme,
  showsIntake,
  summary: first,
  freshAlerts,
  waitingToday: firstWaiting,
  lastEventId,
  children,
}: Parameters<typeof ProjectFrame>[0]) {
  const client = useQueryClient();
  const connection = useLiveStream(project.key, lastEventId);
  const summary = useSummary(project.key, first);
  const { data: today } = useQuery({
    ...queryOf(todayContract.count, { params: { key: project.key } }),
    initialData: { waiting: firstWaiting },
    staleTime: Infinity,
  });
  const waitingToday = today.waiting;
  const settling = useRef<ReturnType<typeof setTimeout> | null>(null);
  useLive((message) => {
    if (message.kind === "database") return;
    // Several changes in a moment are one look at the figures.
    if (settling.current) clearTimeout(settling.current);
    settling.current = setTimeout(() => {
      const params = { key: project.key };
      void client.invalidateQueries({ queryKey: keyOf(flowContract.summary, { params }) });
      void client.invalidateQueries({ queryKey: keyOf(todayContract.count, { params }) });
    }, SETTLE_MS);
  });
  const notes = useMemo(() => notesOf(summary), [summary]);
  return (
    <OptionNotes.Provider value={notes}>
      <div className="flex h-dvh flex-col zoomed:h-auto zoomed:min-h-dvh">
        <ToContent />
        <CourseBar
          project={project}
          projects={projects}
          projectsPutAway={projectsPutAway}
          mayStartProjects={mayStartProjects}
          person={person}
          waiting={summary.unjudged}
          freshAlerts={freshAlerts}
          waitingToday={waitingToday}
          showsIntake={showsIntake}
          theme={theme}
        />
        {putAway && <PutAwayNote project={project} {...putAway} />}
        <div className="flex min-h-0 flex-1">
          <main id="main" className="min-w-0 flex-1 overflow-hidden zoomed:overflow-visible">
            {children}
          </main>
          <Docked projectKey={project.key} />
        </div>
        <PulseStrip summary={summary} connection={connection} />
        <AskedFirstSheet />
        <AskedWhy />
      </div>
    </OptionNotes.Provider>
  );
}

/** Wherever a person is chosen it says how much they have in their hands, and whether they are away. */
const notesOf = ({ loads }: ProjectSummary): Record<string, OptionNote> =>
  Object.fromEntries(
    Object.entries(loads).map(([id, { words, over, away, trades }]) => [
      id,
      {
        words: [away, words, tradesLine(trades)].filter(Boolean).join(" · "),
        alarm: over || away !== null,
      },
    ]),
  );
