"use client";
import { Hand, ThumbsDown } from "lucide-react";
import { itemContract } from "@/core/item/contract";
import { votesTotal, type Votes, type VoteSide } from "@/core/item/vote";
import { Button } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import type { ItemHandle } from "./use-item";

/** Who wants the open item, and one's own vote. */
export function ItemVotes({ handle: { view, reload } }: { handle: ItemHandle }) {
  return (
    <VoteButtons
      itemKey={view.key}
      votes={view.votes}
      against={view.votesAgainst}
      locked={!view.rights.comment}
      onVoted={reload}
    />
  );
}

/** Votes for an item, or takes the vote back; against it too where the project counts that. */
export function VoteButtons({
  itemKey,
  votes,
  against,
  locked,
  onVoted,
}: {
  itemKey: string;
  votes: Votes;
  /** Whether one can vote against it. */
  against: boolean;
  locked: boolean;
  onVoted: () => Promise<unknown>;
}) {
  const { mine } = votes;
  const vote = (side: VoteSide) =>
    void ask(itemContract.vote, {
      params: { key: itemKey },
      body: { side: mine === side ? null : side },
    }).then(onVoted, tellProblem);
  const total = votesTotal(votes);
  const told = votes.reports === 0 ? "" : `, ${votes.reports} of them reports`;
  return (
    <span className="inline-flex items-center">
      <Button
        look="quiet"
        small
        className={mine === "for" ? "!px-1.5 text-accent" : "!px-1.5"}
        aria-pressed={mine === "for"}
        aria-label={`Vote for ${itemKey}: ${total} so far${told}`}
        title={mine === "for" ? "You want it. Press to take that back." : "I want it too"}
        disabled={locked}
        onClick={() => vote("for")}
      >
        <Hand size={14} aria-hidden="true" /> {total}
      </Button>
      {against && (
        <Button
          look="quiet"
          small
          className={mine === "against" ? "!px-1.5 text-alarm" : "!px-1.5"}
          aria-pressed={mine === "against"}
          aria-label={`Vote against ${itemKey}: ${votes.against} so far`}
          title={
            mine === "against" ? "You would rather not have it." : "I would rather not have it"
          }
          disabled={locked}
          onClick={() => vote("against")}
        >
          <ThumbsDown size={14} aria-hidden="true" />
          {votes.against > 0 && votes.against}
        </Button>
      )}
    </span>
  );
}
