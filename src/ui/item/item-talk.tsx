"use client";
import { Button, TextButton } from "@/ui/kit/button";
import { TextArea } from "@/ui/kit/field";
import { useEffect, useState, type FormEvent } from "react";
import { tellProblem } from "@/ui/kit/notice";
import { Footprints } from "lucide-react";
import { ago, exact, shortDate } from "@/ui/kit/time";
import { Words } from "@/ui/kit/words";
import type { ItemHandle } from "./use-item";

/** Comments, and a place to write one. What is typed stays until it is stored. */
export function ItemComments({ handle }: { handle: ItemHandle }) {
  const { view, send } = handle;
  const named = useNamedComment(view.comments);
  const [body, setBody] = useState("");
  const [busy, setBusy] = useState(false);
  const write = async (event?: FormEvent, kind: "comment" | "ask" = "comment") => {
    event?.preventDefault();
    if (!body.trim()) return;
    setBusy(true);
    try {
      await send(
        { kind, body },
        kind === "ask" ? "The question goes to the requester." : undefined,
      );
      setBody("");
    } catch (error) {
      tellProblem(error);
    }
    setBusy(false);
  };
  return (
    <section>
      <h3 className="mb-1 text-[13px]">Comments</h3>
      {view.comments.length === 0 && <p className="text-ink-soft">Nobody has said anything yet.</p>}
      <ol className="flex flex-col gap-2">
        {view.comments.map((c) => (
          <li
            key={c.id}
            id={commentPlace(c.id)}
            className={c.id === named ? "border-l-[3px] border-accent bg-accent-soft pl-2" : ""}
          >
            <p className="text-[12.5px] text-ink-soft">
              <b className="text-ink">{c.author}</b>{" "}
              <time title={exact(c.at, view.project.zone)}>{ago(c.at, view.now)}</time>
              {c.agreed && <AgreedMark agreed={c.agreed} />}
            </p>
            <Words text={c.body} />
          </li>
        ))}
      </ol>
      {view.rights.comment && (
        <form onSubmit={(e) => void write(e)} className="mt-2 flex flex-col gap-2">
          <TextArea
            aria-label="Write a comment"
            placeholder="Write a comment (Ctrl Enter stores it)"
            maxLength={20_000}
            rows={2}
            value={body}
            onChange={(e) => setBody(e.target.value)}
            onKeyDown={(e) => e.key === "Enter" && (e.ctrlKey || e.metaKey) && void write()}
          />
          {body.trim() && (
            <div className="flex gap-2 self-end">
              {view.reports.length > 0 && (
                <Button
                  disabled={busy}
                  look="quiet"
                  small
                  onClick={() => void write(undefined, "ask")}
                >
                  Ask the requester
                </Button>
              )}
              <Button type="submit" disabled={busy} small>
                Add comment
              </Button>
            </div>
          )}
        </form>
      )}
    </section>
  );
}

const commentPlace = (id: string): string => `comment-${id}`;

/** The comment that the address names, brought into sight; null where it names none. */
function useNamedComment(comments: ItemHandle["view"]["comments"]): string | null {
  const [place, setPlace] = useState("");
  useEffect(() => {
    const look = () => setPlace(window.location.hash.slice(1));
    look();
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
  const named = comments.find(({ id }) => commentPlace(id) === place)?.id ?? null;
  useEffect(() => {
    if (named !== null) document.getElementById(commentPlace(named))?.scrollIntoView();
  }, [named]);
  return named;
}

/** That something was agreed on together, with whose it is and by when. */
function AgreedMark({
  agreed: { owner, dueOn },
}: {
  agreed: { owner: string | null; dueOn: string | null };
}) {
  const more = [owner, dueOn && `by ${shortDate(dueOn)}`].filter(Boolean).join(", ");
  return (
    <span className="ml-2 font-semibold text-accent" data-agreed="">
      <Footprints size={13} className="mr-1 inline" aria-hidden="true" />
      agreed on the walk{more && `: ${more}`}
    </span>
  );
}

/** The whole history in words, newest first. */
export function ItemHistory({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const [all, setAll] = useState(false);
  const shown = all ? view.history : view.history.slice(0, 8);
  return (
    <section>
      <h3 className="mb-1 text-[13px]">History</h3>
      <ol className="flex flex-col gap-1 border-l border-line pl-3">
        {shown.map((e) => (
          <li key={e.seq} className="text-[13px]">
            <b>{e.who}</b> {e.words}
            {e.note && <q className="text-ink-soft"> {e.note}</q>}{" "}
            <time className="whitespace-nowrap text-[12.5px] text-ink-soft">
              {exact(e.at, view.project.zone)}
            </time>
          </li>
        ))}
      </ol>
      {view.history.length > shown.length && (
        <TextButton className="mt-1 text-[13px]" onClick={() => setAll(true)}>
          Show all {view.history.length} entries
        </TextButton>
      )}
    </section>
  );
}
