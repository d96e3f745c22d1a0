"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { ShowDraft } from "@/core/ship/acceptance/acceptance-view";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import type { ShownItemBody, ShownToBody } from "@/core/ship/acceptance/shown-item";
import { Field, TextArea } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemOf, problemWords, queryOf } from "@/ui/kit/request";
import { PagesMade } from "./pages-made";
import { ShowItem } from "./show-item";
import { ShowTo } from "./show-to";
import type { AcceptanceHandle } from "./use-acceptance";

/** Shows some items to people: to whom, with which words, and what of each is seen outside. */
export function ShowForm({
  keys,
  handle,
  onShown,
  onLeave,
}: {
  keys: readonly string[];
  handle: AcceptanceHandle;
  onShown: () => void;
  onLeave: () => void;
}) {
  const { data, error } = useQuery({
    ...queryOf(acceptanceContract.drafts, {
      params: { key: handle.view.project.key },
      query: { items: keys.join(",") },
    }),
    // What is written must not change under the hands.
    staleTime: Infinity,
    refetchOnWindowFocus: false,
  });
  if (error) return <p className="text-alarm">{problemWords(problemOf(error))}</p>;
  if (!data)
    return (
      <p role="status" className="text-ink-soft">
        Reading what is known of {keys.length === 1 ? keys[0] : "them"} …
      </p>
    );
  if (data.length === 0)
    return <p className="text-ink-soft">There is nothing of it that you can show.</p>;
  return <Showing drafts={data} handle={handle} onShown={onShown} onLeave={onLeave} />;
}

const shownAs = ({ itemId, title, how, address }: ShowDraft): ShownItemBody => ({
  ...{ itemId, title, how, address, tested: true, pictures: [] },
});

function Showing({
  drafts,
  handle,
  onShown,
  onLeave,
}: {
  drafts: readonly ShowDraft[];
  handle: AcceptanceHandle;
  onShown: () => void;
  onLeave: () => void;
}) {
  const [id] = useState(() => newId());
  const [to, setTo] = useState<ShownToBody[]>([]);
  const [words, setWords] = useState("");
  const [items, setItems] = useState(() => drafts.map(shownAs));
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [pages, setPages] = useState<{ name: string; page: string | null }[] | null>(null);
  if (pages) return <PagesMade pages={pages} onLeave={onLeave} />;
  const send = async () => {
    if (busy) return;
    if (to.length === 0) return setProblem("Say whom it is shown to.");
    setBusy(true);
    const answer = await handle.show({ id, to, words, items });
    setBusy(false);
    if (!Array.isArray(answer)) return setProblem(problemWords(answer));
    onShown();
    setPages(answer);
  };
  const change = (changed: ShownItemBody) =>
    setItems(items.map((one) => (one.itemId === changed.itemId ? changed : one)));
  return (
    <form
      aria-label="Show it"
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <ShowTo to={to} people={handle.view.people} onChange={setTo} />
      <Field label="What you write to them">
        <TextArea
          rows={2}
          maxLength={4_000}
          value={words}
          placeholder="You asked for this in spring; it goes out on Friday."
          onChange={(event) => setWords(event.target.value)}
        />
      </Field>
      <ul className="show-items" aria-label="What they see">
        {drafts.map((draft) => (
          <ShowItem
            key={draft.itemId}
            draft={draft}
            value={items.find(({ itemId }) => itemId === draft.itemId)!}
            project={handle.view.project}
            onChange={change}
          />
        ))}
      </ul>
      <FormFooter send="Show it to them" busy={busy} problem={problem} onLeave={onLeave} />
    </form>
  );
}
