"use client";
import { Button } from "@/ui/kit/button";
import Link from "next/link";
import { useState } from "react";
import { COLUMNS_BY_WORDS } from "@/core/board/columns-by";
import { conditionSentence } from "@/core/condition/sentence";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";
import type { DesignRequest } from "@/ui/workflow/use-design-request";
import { BoardEditor, newBoard } from "./board-editor";
import { RowTools } from "@/ui/kit/row-tools";

/** The boards of a project: what each shows and by what. */
export function BoardList({ view, send }: { view: DesignView; send: DesignRequest }) {
  const [open, setOpen] = useState<string | null>(null);
  const [made, setMade] = useState<BoardDesign | null>(null);
  const { mayEdit, boards } = view;
  const close = () => {
    setOpen(null);
    setMade(null);
  };
  const save = ({ version, ...board }: BoardDesign, seenVersion = version) =>
    send("boards", { kind: "save", board, seenVersion });
  const move = (at: number, by: number) => {
    const ids = boards.map((b) => b.id);
    ids.splice(at + by, 0, ...ids.splice(at, 1));
    void send("boards", { kind: "order boards", boardIds: ids });
  };
  return (
    <section aria-label="Boards">
      <div className="flex items-baseline gap-3">
        <h2 className="text-[15px]">Boards</h2>
        <p className="flex-1 text-[12.5px] text-ink-soft">
          Each is a look at the same items. The first board of the process opens first in Flow.
        </p>
        {mayEdit && (
          <Button
            small
            disabled={made !== null}
            onClick={() => {
              const board = newBoard(view);
              setMade(board);
              setOpen(board.id);
            }}
          >
            New board
          </Button>
        )}
      </div>
      <ul className="mt-1">
        {[...boards, ...(made ? [made] : [])].map((board, i) => (
          <li key={board.id} className="border-t border-line py-1.5" data-board={board.name}>
            <BoardRow
              board={board}
              view={view}
              isNew={board === made}
              open={open === board.id}
              onOpen={() => (open === board.id ? close() : setOpen(board.id))}
              onUp={i > 0 ? () => move(i, -1) : null}
              onDown={i < boards.length - 1 ? () => move(i, 1) : null}
            />
            {open === board.id && mayEdit && (
              <BoardEditor
                key={board.version}
                board={board}
                view={view}
                onCancel={close}
                onSave={async (draft) => {
                  if (await save(draft)) close();
                }}
                onRemove={
                  board === made
                    ? null
                    : async () => {
                        if (
                          await send(
                            "boards",
                            { kind: "remove", boardId: board.id },
                            `${board.name} is taken out; its items stay where they are.`,
                            () => save(board, 0),
                          )
                        )
                          close();
                      }
                }
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** One board in the list: what it is by, what it is about, and its place among them. */
function BoardRow({
  board,
  view,
  isNew,
  open,
  onOpen,
  onUp,
  onDown,
}: {
  board: BoardDesign;
  view: DesignView;
  isNew: boolean;
  open: boolean;
  onOpen: () => void;
  /** Null at the ends of the list. */
  onUp: (() => void) | null;
  onDown: (() => void) | null;
}) {
  const { name, columnsBy, scope } = board;
  return (
    <div className="flex items-center gap-3">
      {isNew ? (
        <b className="w-52 truncate">New board</b>
      ) : (
        <Link
          className="link w-52 truncate font-semibold"
          href={`/p/${view.project.key}/flow?board=${encodeURIComponent(board.id)}`}
        >
          {name}
        </Link>
      )}
      <span className="w-44 text-[13px]">by {COLUMNS_BY_WORDS[columnsBy]}</span>
      <span className="min-w-0 flex-1 truncate text-[13px] text-ink-soft">
        {scope === null
          ? "everything"
          : `where ${conditionSentence(scope, view.around.vocabulary)}`}
      </span>
      {view.mayEdit && (
        <RowTools
          name={name}
          open={open}
          onOpen={onOpen}
          onUp={isNew ? undefined : onUp}
          onDown={isNew ? undefined : onDown}
        />
      )}
    </div>
  );
}
