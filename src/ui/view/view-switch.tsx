"use client";
import { flowPath, readAcrossKey } from "@/core/across/place";
import Link from "next/link";
import { ChevronDown, Star } from "lucide-react";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { View } from "@/core/view/view";
import { Button } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { useOfferedActs } from "@/ui/kit/offered-acts";
import { Popover } from "@/ui/kit/popover";
import { useFocusGoesOn } from "@/ui/kit/use-focus-goes-on";
import type { LookHandle } from "./use-look";
import { ViewSettings } from "./view-settings";
import { WhichLook } from "./which-look";

/** What is looked at is called: the view, or the board where it is none. */
export function lookName({ view, look, views }: LookHandle): string {
  if (view) return view.name;
  if (look.arrangement === "table" && look.board === null) return "All items";
  return views.boards.find(({ id }) => id === look.board)?.name ?? views.boards[0]?.name ?? "Board";
}

/** Which view is looked at, the way to all others, and what can be done with this one. */
export function ViewSwitch({ handle }: { handle: LookHandle }) {
  const [open, setOpen] = useState(false);
  const [settings, setSettings] = useState(false);
  const [asking, setAsking] = useState(false);
  const { projectKey, views, view, look } = handle;
  const name = lookName(handle);
  const base = flowPath(projectKey);
  const close = () => setOpen(false);
  const { goesOn, onReturnFocus } = useFocusGoesOn();
  const groups = viewGroups(views.views);
  useSwitchActs(handle, () => setAsking(true));
  return (
    <div className="flex shrink-0 items-center gap-1">
      <h1 className="text-[18px]">
        <Popover
          open={open}
          onOpenChange={setOpen}
          label="Views and boards"
          align="start"
          className="max-h-[75vh] w-[330px] overflow-y-auto"
          onReturnFocus={onReturnFocus}
          trigger={
            <button
              type="button"
              className="inline-flex max-w-[340px] items-center gap-1.5 rounded-[3px] whitespace-nowrap hover:text-accent"
              aria-label={`${name}, choose another view or board`}
            >
              <span className="truncate">{name}</span>
              <ChevronDown size={15} aria-hidden="true" className="shrink-0" />
            </button>
          }
        >
          {groups.map(({ title, members }) => (
            <section key={title} aria-label={title} className="mb-2">
              <h2 className="px-2 text-[12px] font-normal text-ink-soft">{title}</h2>
              <ul>
                {members.map((each) => (
                  <ViewRow
                    key={each.id}
                    view={each}
                    href={`${base}?view=${each.id}`}
                    current={each.id === view?.id}
                    handle={handle}
                    onGo={close}
                  />
                ))}
              </ul>
            </section>
          ))}
          <section aria-label="Boards">
            <h2 className="px-2 text-[12px] font-normal text-ink-soft">Boards</h2>
            <ul>
              {views.boards.map((board) => (
                <li key={board.id}>
                  <Link
                    href={`${base}?board=${encodeURIComponent(board.id)}`}
                    className={`menu-item ${!view && board.id === look.board ? "font-semibold" : ""}`}
                    aria-current={!view && board.id === look.board ? "page" : undefined}
                    onClick={close}
                  >
                    {board.name}
                  </Link>
                </li>
              ))}
              <li>
                <Link href={`${base}?as=table`} className="menu-item" onClick={close}>
                  All items as a table
                </Link>
              </li>
            </ul>
          </section>
          <div className="mt-1 border-t border-line pt-1">
            <button
              type="button"
              className="menu-item w-full text-left text-accent"
              onClick={() => {
                goesOn();
                close();
                setAsking(true);
              }}
            >
              Which look answers my question?
            </button>
          </div>
          {views.rights.lead && readAcrossKey(projectKey) === null && (
            <div className="mt-1 flex gap-4 border-t border-line px-2 pt-1.5 text-[13px]">
              <Link href={`${base}/views`} className="link" onClick={close}>
                Look after the views
              </Link>
              <Link href={`/p/${projectKey}/design?place=boards`} className="link" onClick={close}>
                Boards
              </Link>
            </div>
          )}
        </Popover>
      </h1>
      <WhichLook handle={handle} open={asking} onClose={() => setAsking(false)} />
      {view && (
        <Popover
          open={settings}
          onOpenChange={setSettings}
          label={`The view ${view.name}`}
          className="w-[320px]"
          trigger={
            <Button look="quiet" small aria-label={`What this view is: ${view.name}`}>
              ···
            </Button>
          }
        >
          <ViewSettings
            key={view.version}
            handle={handle}
            view={view}
            onDone={() => setSettings(false)}
          />
        </Popover>
      )}
    </div>
  );
}

/** Another view or board, as the box offers it. */
function useSwitchActs({ projectKey, views, view, look }: LookHandle, onAsk: () => void): void {
  const router = useRouter();
  const boards = views.boards.filter(({ id }) => view !== null || id !== look.board);
  const choices = [
    ...views.views
      .filter(({ id }) => id !== view?.id)
      .map(({ id, name }) => ({ id: `view=${id}`, words: name, more: "view" })),
    ...boards.map(({ id, name }) => ({
      id: `board=${encodeURIComponent(id)}`,
      words: name,
      more: "board",
    })),
    { id: "as=table", words: "All items as a table" },
  ];
  useOfferedActs("views", [
    {
      id: "switch-view",
      words: "Look at another view or board",
      also: ["switch view", "switch board"],
      choices,
      act: (choice = "") => router.push(`${flowPath(projectKey)}?${choice}`),
    },
    { id: "which-look", words: "Which look answers my question?", act: onAsk },
  ]);
}

/** Views by where somebody looks for them: each once, where it is found first. */
function viewGroups(views: readonly View[]): { title: string; members: View[] }[] {
  const titles: [string, (view: View) => boolean][] = [
    ["In everybody’s frame", (view) => view.place !== null],
    ["My favourites", (view) => view.favourite],
    ["Mine", (view) => view.sharing !== "project" && view.mayChange && !view.owner?.gone],
    ["Of the project", (view) => view.sharing === "project"],
    ["Shown by others", () => true],
  ];
  const left = new Set(views);
  return titles.flatMap(([title, belongs]) => {
    const members = [...left].filter(belongs);
    for (const view of members) left.delete(view);
    return members.length > 0 ? [{ title, members }] : [];
  });
}

function ViewRow({
  view,
  href,
  current,
  handle,
  onGo,
}: {
  view: View;
  href: string;
  current: boolean;
  handle: LookHandle;
  onGo: () => void;
}) {
  const turn = async () => {
    try {
      await handle.send({ kind: "favourite", id: view.id, on: !view.favourite });
    } catch (error) {
      tellProblem(error);
    }
  };
  const whose =
    view.sharing === "shown" && !view.mayChange
      ? view.owner?.name
      : view.sharing === "mine"
        ? "mine"
        : null;
  return (
    <li className="flex items-center">
      <Link
        href={href}
        className={`menu-item min-w-0 flex-1 ${current ? "font-semibold" : ""}`}
        aria-current={current ? "page" : undefined}
        onClick={onGo}
      >
        <span className="truncate">{view.name}</span>
        <span className="ml-auto shrink-0 pl-2 text-[12px] font-normal text-ink-soft">
          {[whose, view.look.arrangement].filter(Boolean).join(" · ")}
        </span>
      </Link>
      <Button
        look="quiet"
        small
        className="!px-1"
        aria-label={`Favourite: ${view.name}`}
        aria-pressed={view.favourite}
        onClick={() => void turn()}
      >
        <Star size={14} aria-hidden="true" fill={view.favourite ? "currentColor" : "none"} />
      </Button>
    </li>
  );
}
