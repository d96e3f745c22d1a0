"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import Link from "next/link";
import { DAY } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";
import { viewContract } from "@/core/view/contract";
import type { ViewRequest, ViewUse, ViewUses } from "@/core/view/view";
import { Button, TextButton } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask, queryOf } from "@/ui/kit/request";
import { Table, type TableColumn } from "@/ui/kit/table";
import { span } from "@/ui/kit/time";
import { FrameOrder } from "./frame-order";

/** A view that nobody opened for so long is asked about. */
const UNUSED = 60 * DAY;

/** All views of a project that more than one person sees, for its leads: which are used, and which not. */
export function ViewsScreen({
  projectKey,
  initial,
  now,
}: {
  projectKey: string;
  initial: ViewUses;
  now: number;
}) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data } = useQuery({
    ...queryOf(viewContract.uses, { params }),
    initialData: initial,
  });
  const send = async (body: ViewRequest, done: string, undo?: ViewRequest) => {
    const change = async (request: ViewRequest) => {
      await ask(viewContract.change, { params, body: request });
      await client.invalidateQueries();
    };
    try {
      await change(body);
      tellDone(done, undo && (() => change(undo)));
    } catch (error) {
      tellProblem(error);
    }
  };
  const inUse = data.uses.filter((use) => use.awayAt === null);
  const away = data.uses.filter((use) => use.awayAt !== null);
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <h1 className="text-[18px]">Views of the project</h1>
      <p className="mb-3 max-w-[75ch] text-[13px] text-ink-soft">
        What everybody finds first stands in the frame. A view that nobody opens, or that is nearly
        the same as another, costs whoever looks for the right one.
      </p>
      <Unseen {...data.unseen} />
      <div className="grid grid-cols-[minmax(0,1fr)_320px] gap-8">
        <Table
          label="Views"
          columns={useColumns(projectKey, now, send)}
          rows={inUse}
          keyOf={(use) => use.id}
          dataOf={(use) => ({ "data-view": use.name })}
          empty="Nobody shares a view yet. Keep one for all from the board or the table."
        />
        <FrameOrder
          uses={inUse}
          onOrder={(ids) => void send({ kind: "frame", ids }, "The frame is stored.")}
        />
      </div>
      {away.length > 0 && (
        <section aria-label="Put away" className="mt-6">
          <h2 className="text-[14px]">Put away</h2>
          <ul className="text-[13px]">
            {away.map(({ id, name }) => (
              <li key={id} className="flex items-center gap-3 py-0.5">
                <span>{name}</span>
                <TextButton
                  onClick={() => void send({ kind: "bring back", id }, `“${name}” is back.`)}
                >
                  bring back
                </TextButton>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** Items that no shared view and no board shows. */
function Unseen({ count, keys }: ViewUses["unseen"]) {
  const { openItem } = usePanel();
  if (count === 0) return null;
  return (
    <Note kind="look" className="mb-3">
      <b>{counted(count, "item")}</b> not finished and in no shared view:{" "}
      {keys.slice(0, 12).map((key) => (
        <TextButton key={key} className="key mr-2" onClick={() => openItem(key)}>
          {key}
        </TextButton>
      ))}
      {count > 12 && <span>and {(count - 12).toLocaleString("en")} more</span>}
    </Note>
  );
}

function useColumns(
  projectKey: string,
  now: number,
  send: (body: ViewRequest, done: string, undo?: ViewRequest) => Promise<void>,
): TableColumn<ViewUse>[] {
  return [
    {
      head: "View",
      cell: ({ id, name }) => (
        <Link className="link" href={`/p/${projectKey}/flow?view=${id}`}>
          {name}
        </Link>
      ),
    },
    { head: "Whose", cell: ({ owner }) => owner ?? "the project’s" },
    {
      head: "Opened",
      cell: ({ openedAt }) => {
        if (openedAt === null) return <span className="text-signal-ink">never</span>;
        const words = `${span(now - openedAt)} ago`;
        return now - openedAt > UNUSED ? <b className="text-signal-ink">{words}</b> : words;
      },
    },
    { head: "People in a month", figures: true, cell: ({ people }) => people },
    {
      head: "Nearly the same as",
      cell: ({ like }) =>
        like && (
          <span>
            {like.name}
            {like.how.length > 0 && <span className="text-ink-soft">: {like.how.join(", ")}</span>}
          </span>
        ),
    },
    {
      head: "",
      cell: ({ id, name }) => (
        <Button
          small
          look="quiet"
          onClick={() =>
            void send({ kind: "put away", id }, `“${name}” is put away.`, {
              kind: "bring back",
              id,
            })
          }
        >
          Put away
        </Button>
      ),
    },
  ];
}
