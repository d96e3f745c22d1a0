"use client";
import { ChevronDown } from "lucide-react";
import Link from "next/link";
import { DropdownMenu } from "radix-ui";

export interface FrameProject {
  key: string;
  name: string;
}

export function ProjectMenu({
  project,
  projects,
  mayStart,
}: {
  project: FrameProject;
  projects: FrameProject[];
  mayStart: boolean;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="button button-quiet !px-2 text-[14px]">
        {project.name}
        <span className="key rounded-[3px] border border-line px-1">{project.key}</span>
        <ChevronDown size={14} aria-hidden="true" />
        <span className="sr-only">, change project</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={4} className="popover menu">
          {projects.map((p) => (
            <DropdownMenu.Item key={p.key} asChild>
              <Link href={`/p/${p.key}/flow`} className="menu-item">
                <span className="key w-12">{p.key}</span>
                {p.name}
              </Link>
            </DropdownMenu.Item>
          ))}
          {mayStart && (
            <>
              <DropdownMenu.Separator className="my-1 h-px bg-line" />
              <DropdownMenu.Item asChild>
                <Link href="/start" className="menu-item">
                  Start a project…
                </Link>
              </DropdownMenu.Item>
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
