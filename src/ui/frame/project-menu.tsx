"use client";
import { ChevronDown } from "lucide-react";
import { Button } from "@/ui/kit/button";
import { Menu, MenuLink, MenuSection, MenuTitle } from "@/ui/kit/menu";

export interface FrameProject {
  key: string;
  name: string;
}

export function ProjectMenu({
  project,
  projects,
  putAway = [],
  mayStart,
}: {
  /** Null above the projects. */
  project: FrameProject | null;
  projects: FrameProject[];
  /** Those that were put away. */
  putAway?: FrameProject[];
  mayStart: boolean;
}) {
  return (
    <Menu
      trigger={
        <Button look="quiet" className="!px-2 text-[14px]">
          {project?.name ?? "Across"}
          {project && (
            <span className="key rounded-[3px] border border-line px-1">{project.key}</span>
          )}
          <ChevronDown size={14} aria-hidden="true" />
          <span className="sr-only">, change project</span>
        </Button>
      }
    >
      <MenuLink href="/across/mine">Across the projects</MenuLink>
      {projects.map((p) => (
        <MenuLink key={p.key} href={`/p/${p.key}/flow`}>
          <span className="key w-12">{p.key}</span>
          {p.name}
        </MenuLink>
      ))}
      {putAway.length > 0 && (
        <MenuSection>
          <MenuTitle>Put away</MenuTitle>
          {putAway.map((p) => (
            <MenuLink key={p.key} href={`/p/${p.key}/flow`}>
              <span className="key w-12">{p.key}</span>
              <span className="text-ink-soft">{p.name}</span>
            </MenuLink>
          ))}
        </MenuSection>
      )}
      {mayStart && (
        <MenuSection>
          <MenuLink href="/start">Start a project…</MenuLink>
        </MenuSection>
      )}
    </Menu>
  );
}
