"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import type { AcrossPlaces } from "@/core/across/contract";
import type { Pin } from "@/core/item/pins/pin";
import { AlertsBell } from "@/ui/alerts/alerts-bell";
import { Course, COURSE_BAR } from "@/ui/frame/course";
import { Docked } from "@/ui/frame/docked";
import { PersonMenu } from "@/ui/frame/person-menu";
import { Pins } from "@/ui/frame/pins";
import { ProjectMenu } from "@/ui/frame/project-menu";
import { FindBox } from "@/ui/find/find-box";
import { ToContent } from "@/ui/frame/to-content";
import { AskedFirstSheet } from "@/ui/item/asked-first";
import { AskedWhy } from "@/ui/item/asked-why";
import { useFirstPins } from "@/ui/item/use-pins";
import type { PictureAddresses } from "@/core/people/picture";
import { KnownPictures } from "@/ui/people/known-pictures";
import { Mark } from "@/ui/kit/mark";
import { PanelProvider } from "@/ui/kit/panel-context";
import type { Theme } from "@/ui/kit/theme";
import { KnownTypes, type KnownType } from "@/ui/kit/type-glyph";
import { useLiveStream } from "@/ui/kit/use-live";
import { Groups } from "./groups";
import { useAcross } from "./use-across";

interface Props {
  placeKey: string;
  across: AcrossPlaces;
  mayStartProjects: boolean;
  person: { name: string; administrator: boolean };
  theme: Theme;
  freshAlerts: number;
  types: readonly KnownType[];
  lastEventId: number;
  pins: Pin[];
  pictures: PictureAddresses;
  children: ReactNode;
}

/** The frame of the places above the projects: the same tools, and the places on one line. */
export function AcrossFrame(props: Props) {
  useFirstPins(props.pins);
  return (
    <KnownTypes types={props.types}>
      <KnownPictures first={props.pictures}>
        <PanelProvider>
          <Frame {...props} />
        </PanelProvider>
      </KnownPictures>
    </KnownTypes>
  );
}

const LOST = "Connection lost. What you see may be old; connecting again…";

function Frame({
  placeKey,
  across: first,
  mayStartProjects,
  person,
  theme,
  freshAlerts,
  lastEventId,
  children,
}: Props) {
  const connection = useLiveStream(placeKey, lastEventId);
  const { across, send } = useAcross(first);
  const [home] = across.projects;
  return (
    <div className="flex h-dvh flex-col zoomed:h-auto zoomed:min-h-dvh">
      <ToContent />
      <header className={COURSE_BAR}>
        <Link href="/across/mine" aria-label="Zigzag Lane, to what is mine" className="flex">
          <Mark />
        </Link>
        <ProjectMenu project={null} projects={across.projects} mayStart={mayStartProjects} />
        <Course
          label="Places above the projects"
          step={88}
          stops={across.places.map(({ key, name }) => ({
            id: key,
            name,
            href: `/across/${key}`,
            current: key === placeKey,
          }))}
        />
        <Groups across={across} send={send} />
        <div className="ml-auto flex items-center gap-3 max-[860px]:gap-2">
          <FindBox at={placeKey} />
          <Pins projectKey={placeKey} />
          <AlertsBell projectKey={home.key} initial={freshAlerts} />
          <PersonMenu person={person} theme={theme} />
        </div>
      </header>
      {connection !== "live" && (
        <strong role="status" className="bg-signal-soft px-4 py-1 text-signal-ink">
          {LOST}
        </strong>
      )}
      <div className="flex min-h-0 flex-1">
        <main id="main" className="min-w-0 flex-1 overflow-hidden zoomed:overflow-visible">
          {children}
        </main>
        <Docked projectKey={placeKey} />
      </div>
      <AskedFirstSheet />
      <AskedWhy />
    </div>
  );
}
