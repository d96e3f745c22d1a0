"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { counted } from "@/core/formats/counted";
import { itemContract } from "@/core/item/contract";
import type { WithdrawnItem, WithdrawnView } from "@/core/item/withdrawn-view";
import { sendCommand } from "@/ui/item/send-command";
import { Button, ButtonLink, TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { keyOf, queryOf } from "@/ui/kit/request";
import { Table } from "@/ui/kit/table";
import { exact } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useLive } from "@/ui/kit/use-live";

/** What was withdrawn, by whom and why; each can be looked at and brought back. */
export function WithdrawnScreen({ initial }: { initial: WithdrawnView }) {
  const client = useQueryClient();
  const { openItem } = usePanel();
  const [typed, setTyped] = useState("");
  const words = useDeferredValue(typed);
  const { key, name, zone } = initial.project;
  const { data: view = initial } = useQuery({
    ...queryOf(itemContract.withdrawn, { params: { key }, query: { words } }),
    initialData: words === "" ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const readAgain = () => client.invalidateQueries({ queryKey: keyOf(itemContract.withdrawn) });
  useLive((message) => {
    if (message.kind === "item" || message.kind === "resync") void readAgain();
  });
  const bringBack = async (item: WithdrawnItem) => {
    try {
      await sendCommand(item.id, { kind: "bring back" });
      tellDone(`${item.key} is back.`);
    } catch (error) {
      tellProblem(error);
    }
    await readAgain();
  };
  return (
    <div className="flex h-full flex-col gap-3 overflow-y-auto px-5 py-4">
      <header className="flex flex-wrap items-center gap-3">
        <h1 className="text-[19px]">Withdrawn</h1>
        <p className="text-ink-soft">
          {view.count === 0 ? `from ${name}` : `${counted(view.count, "item")} from ${name}`}
          {view.items.length < view.count && `, the latest ${view.items.length} of them here`}
        </p>
        <span className="flex-1" />
        <TextInput
          aria-label="Find among what was withdrawn"
          placeholder="Words or a key"
          className="!w-[220px]"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        <ButtonLink small look="quiet" href={`/p/${key}/plan`}>
          Back to the backlog
        </ButtonLink>
      </header>
      {view.items.length === 0 ? (
        <p className="py-10 text-center text-ink-soft">
          {words.trim() === ""
            ? "Nothing was withdrawn. What is, stands here with who did it and why, and can be brought back."
            : "Nothing that was withdrawn says that."}
        </p>
      ) : (
        <Table
          label="Withdrawn items"
          className="w-full"
          rows={view.items}
          keyOf={(item) => item.id}
          columns={[
            {
              head: "Item",
              cell: (item) => (
                <span className="flex items-center gap-2">
                  <TypeGlyph typeId={item.typeId} />
                  <TextButton className="key !text-accent" onClick={() => openItem(item.key)}>
                    {item.key}
                  </TextButton>
                  <span>{item.title}</span>
                </span>
              ),
            },
            { head: "Why", cell: (item) => <span className="text-ink-soft">{item.why}</span> },
            { head: "By", cell: (item) => item.who },
            {
              head: "When",
              cell: (item) => <span className="whitespace-nowrap">{exact(item.at, zone)}</span>,
            },
            {
              head: <span className="sr-only">Bring back</span>,
              className: "!text-right",
              cell: (item) =>
                item.byItself &&
                view.mayBringBack && (
                  <Button
                    small
                    aria-label={`Bring back ${item.key}`}
                    onClick={() => void bringBack(item)}
                  >
                    Bring back
                  </Button>
                ),
            },
          ]}
        />
      )}
    </div>
  );
}
