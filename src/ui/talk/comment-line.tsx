"use client";
import { Footprints, MapPin, MoreHorizontal } from "lucide-react";
import { useMemo, useState } from "react";
import { v7 as newId } from "uuid";
import { COMMENT_SIGNS, type CommentSign } from "@/core/talk/comment";
import { talkContract } from "@/core/talk/contract";
import type { SeenSpot } from "@/core/talk/spot";
import type { TalkComment } from "@/core/talk/talk-view";
import { Button, TextButton } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";
import { TextInput } from "@/ui/kit/field";
import { Initials } from "@/ui/kit/initials";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { ago, exact, shortDate } from "@/ui/kit/time";
import { goToPlace } from "@/ui/kit/use-hash";
import { filePlace } from "@/ui/item/file-place";
import type { ItemHandle } from "@/ui/item/use-item";
import { Composer } from "./composer";
import { SaidWords } from "./said-words";
import { commentPlace } from "./use-named-comment";

/** One comment: who, when, what, and what can be done with it. */
export function CommentLine({
  handle,
  comment,
  named,
  onAnswer,
}: {
  handle: ItemHandle;
  comment: TalkComment;
  named: boolean;
  /** Left out where nobody may answer. */
  onAnswer?: () => void;
}) {
  const { view } = handle;
  const { talk } = view;
  const [editing, setEditing] = useState(false);
  const [earlier, setEarlier] = useState(false);
  const [ending, setEnding] = useState<"take back" | "empty" | null>(null);
  const known = useMemo(() => {
    const { items, commits, nameable } = talk;
    return { items, commits, nameable };
  }, [talk]);
  const { author, at, body, gone, audience } = comment;
  const when = <time title={exact(at, view.project.zone)}>{ago(at, Math.max(view.now, at))}</time>;
  if (gone !== null)
    return (
      <p className="comment-gone">
        {gone.by === author
          ? `${author} took back what they said`
          : `${gone.by} took back what ${author} said`}{" "}
        {when}
        {gone.why && <q> {gone.why}</q>}
      </p>
    );
  return (
    <article
      className="comment"
      data-named={named || undefined}
      data-audience={audience}
      aria-label={`${author} said`}
    >
      <Initials name={author} size={28} />
      <div className="min-w-0 flex-1">
        <p className="comment-head">
          <b>{author}</b> {when}
          {comment.earlier.length > 0 && (
            <TextButton className="text-[12.5px]" onClick={() => setEarlier(!earlier)}>
              changed
              <span className="sr-only">: {earlier ? "hide" : "show"} earlier texts</span>
            </TextButton>
          )}
          {audience === "reporters" && <span className="comment-outside">with the reporters</span>}
          {comment.agreed && <AgreedMark agreed={comment.agreed} />}
          {comment.spot && <SpotMark spot={comment.spot} />}
        </p>
        {earlier &&
          comment.earlier.map((one) => (
            <div key={one.until} className="comment-earlier">
              <SaidWords text={one.body} known={known} />
              <p>until {exact(one.until, view.project.zone)}</p>
            </div>
          ))}
        {editing ? (
          <Composer
            handle={handle}
            edits={{ commentId: comment.id, body }}
            autoFocus
            onDone={() => setEditing(false)}
          />
        ) : (
          <SaidWords text={body} known={known} />
        )}
        <Asked comment={comment} />
        {!editing && (
          <Acts
            handle={handle}
            comment={comment}
            onAnswer={onAnswer}
            onEdit={() => setEditing(true)}
            onEnd={setEnding}
          />
        )}
        {ending !== null && (
          <Ending handle={handle} comment={comment} how={ending} onDone={() => setEnding(null)} />
        )}
      </div>
    </article>
  );
}

/** Who is asked and has not answered yet. */
function Asked({ comment: { asks } }: { comment: TalkComment }) {
  if (asks.length === 0) return null;
  const open = asks.filter(({ answered }) => !answered);
  return (
    <p className="comment-asks" data-open={open.length > 0 || undefined}>
      {open.length > 0
        ? `waits for an answer of ${open.map(({ name }) => name).join(" and ")}`
        : "answered"}
    </p>
  );
}

const SIGN_WORDS: Record<CommentSign, string> = {
  seen: "Seen",
  thanks: "Thanks",
  agreed: "Agreed",
  "not so": "Not so",
};

function Acts({
  handle,
  comment,
  onAnswer,
  onEdit,
  onEnd,
}: {
  handle: ItemHandle;
  comment: TalkComment;
  onAnswer?: () => void;
  onEdit: () => void;
  onEnd: (how: "take back" | "empty") => void;
}) {
  const { view, reload } = handle;
  const mine = comment.authorId !== null && comment.authorId === view.me;
  const sent = comment.audience === "reporters";
  const sign = (one: CommentSign, on: boolean) =>
    void ask(talkContract.sign, {
      params: { key: view.key },
      body: { commentId: comment.id, sign: one, on },
    }).then(reload, tellProblem);
  const put = new Map(comment.signs.map((one) => [one.sign, one]));
  const link = () => {
    const page = `/p/${view.project.key}/items/${view.key}`;
    const address = `${window.location.origin}${page}#${commentPlace(comment.id)}`;
    void copyText(address, "The link is copied.");
  };
  return (
    <div className="comment-acts">
      {onAnswer && <TextButton onClick={onAnswer}>Answer</TextButton>}
      {view.rights.comment &&
        COMMENT_SIGNS.filter((one) => put.has(one) || one === "seen" || one === "thanks").map(
          (one) => {
            const { people = [], mine: own = false } = put.get(one) ?? {};
            return (
              <button
                key={one}
                type="button"
                className="comment-sign"
                aria-pressed={own}
                title={people.join(", ") || undefined}
                onClick={() => sign(one, !own)}
              >
                {SIGN_WORDS[one]} {people.length > 0 && people.length}
              </button>
            );
          },
        )}
      <Menu
        trigger={
          <Button small look="quiet" aria-label={`More about what ${comment.author} said`}>
            <MoreHorizontal size={14} aria-hidden="true" />
          </Button>
        }
      >
        <MenuItem onSelect={link}>Copy the link to it</MenuItem>
        {view.rights.comment &&
          COMMENT_SIGNS.filter((one) => !put.get(one)?.mine).map((one) => (
            <MenuItem key={one} onSelect={() => sign(one, true)}>
              Say “{SIGN_WORDS[one].toLowerCase()}”
            </MenuItem>
          ))}
        {mine && !sent && <MenuItem onSelect={onEdit}>Change it</MenuItem>}
        {(mine || view.rights.moderate) && !sent && (
          <MenuItem onSelect={() => onEnd("take back")}>Take it back</MenuItem>
        )}
        {view.rights.moderate && (
          <MenuItem onSelect={() => onEnd("empty")}>Remove its words for good</MenuItem>
        )}
      </Menu>
    </div>
  );
}

/** Asks why a comment goes, where a reason is needed, right below it. */
function Ending({
  handle,
  comment,
  how,
  onDone,
}: {
  handle: ItemHandle;
  comment: TalkComment;
  how: "take back" | "empty";
  onDone: () => void;
}) {
  const { view, send, reload } = handle;
  const [why, setWhy] = useState("");
  const [busy, setBusy] = useState(false);
  const ofOthers = comment.authorId !== view.me;
  const needsWhy = how === "empty" || ofOthers;
  const end = async () => {
    setBusy(true);
    try {
      if (how === "take back")
        await send({ kind: "take back comment", commentId: comment.id, why }, "It is taken back.");
      else {
        const body = { commandId: newId(), commentId: comment.id, why };
        await ask(talkContract.empty, { params: { key: view.key }, body });
        await reload();
        tellDone("Its words are gone for good.");
      }
      onDone();
    } catch (error) {
      tellProblem(error);
      setBusy(false);
    }
  };
  return (
    <div className="comment-ending">
      <p>
        {how === "empty"
          ? "What it says, and ever said, is removed for good, from the history too. That it was there stays."
          : "It is not shown any more; that it was there, and what it said, stays in the history."}
      </p>
      {needsWhy && (
        <TextInput
          aria-label="Why it goes"
          placeholder="Why it goes"
          maxLength={500}
          autoFocus
          value={why}
          onChange={(event) => setWhy(event.target.value)}
        />
      )}
      <div className="flex gap-2">
        <Button
          small
          look={how === "empty" ? "danger" : "plain"}
          disabled={busy || (needsWhy && why.trim() === "")}
          onClick={() => void end()}
        >
          {how === "empty" ? "Remove it for good" : "Take it back"}
        </Button>
        <Button small look="quiet" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </div>
  );
}

/** The place on a file that a remark is about, which opens there. */
function SpotMark({ spot: { fileId, page, number, fileName } }: { spot: SeenSpot }) {
  if (fileName === null) return <span>on a file that is no longer here</span>;
  return (
    <TextButton className="text-[12.5px]" onClick={() => goToPlace(filePlace(fileId, page))}>
      <MapPin size={12} className="mr-0.5 inline" aria-hidden="true" />
      place {number} on {fileName}
      {page !== null && `, page ${page}`}
    </TextButton>
  );
}

/** That something was agreed on together, with whose it is and by when. */
function AgreedMark({
  agreed: { owner, dueOn },
}: {
  agreed: { owner: string | null; dueOn: string | null };
}) {
  const more = [owner, dueOn && `by ${shortDate(dueOn)}`].filter(Boolean).join(", ");
  return (
    <span className="font-semibold text-accent" data-agreed="">
      <Footprints size={13} className="mr-1 inline" aria-hidden="true" />
      agreed on the walk{more && `: ${more}`}
    </span>
  );
}
