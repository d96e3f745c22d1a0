"use client";
import { useState, type FormEvent } from "react";
import type { DayLine } from "@/core/today/day";
import { Button, ButtonLink, TextButton } from "@/ui/kit/button";
import { TextArea } from "@/ui/kit/field";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useKeptText } from "@/ui/kit/use-kept-text";
import { AgeTrack } from "@/ui/board/age-track";
import type { useToday } from "./use-today";

export type Today = ReturnType<typeof useToday>;

/** One line of the day: the item, why it stands here, how old it is, and its next step. */
export function DayRow({
  line,
  today,
  onOpen,
}: {
  line: DayLine;
  today: Today;
  onOpen: () => void;
}) {
  const { card, reason, alarm, track } = line;
  const [answering, setAnswering] = useState(false);
  return (
    <li className="day-row" data-item={card.key}>
      <div className="day-row-line">
        <TypeGlyph typeId={card.typeId} size={16} />
        <span className="key">{card.key}</span>
        <div className="day-row-words">
          <TextButton className="day-row-title" onClick={onOpen}>
            {card.title}
          </TextButton>
          <p>
            {alarm && <b className="text-alarm">{alarm}</b>}
            {alarm && " · "}
            {reason}
            {card.classOfService === "expedite" && <b> · expedite</b>}
          </p>
        </div>
        {track ? (
          <AgeTrack track={track} late={alarm !== null && track.past85} className="day-row-age" />
        ) : (
          <span className="day-row-age" />
        )}
        <Next line={line} today={today} onOpen={onOpen} onAnswer={() => setAnswering(true)} />
      </div>
      {answering && line.next.kind === "answer" && (
        <AnswerHere
          name={`${card.key} ${line.next.commentId}`}
          onLeave={() => setAnswering(false)}
          onAnswer={(body) => {
            if (line.next.kind === "answer") void today.answer(line, line.next.commentId, body);
          }}
        />
      )}
    </li>
  );
}

function Next({
  line,
  today,
  onOpen,
  onAnswer,
}: {
  line: DayLine;
  today: Today;
  onOpen: () => void;
  onAnswer: () => void;
}) {
  const { next, card } = line;
  const of = <span className="sr-only">: {card.key}</span>;
  switch (next.kind) {
    case "move":
      return (
        <Button small onClick={() => void today.move(line, next.to, next.verb)}>
          {next.verb}
          {of}
        </Button>
      );
    case "answer":
      return (
        <Button small onClick={onAnswer}>
          Answer{of}
        </Button>
      );
    case "accept":
      return (
        <ButtonLink small href={`/p/${line.projectKey}/ship/acceptance`}>
          Say your word{of}
        </ButtonLink>
      );
    case "seen":
      return (
        <Button small onClick={() => void today.seen(next.alertIds)}>
          Seen{of}
        </Button>
      );
    case "look":
      return (
        <Button small onClick={onOpen}>
          Look{of}
        </Button>
      );
  }
}

/** Answers a question without leaving the day. */
function AnswerHere({
  name,
  onAnswer,
  onLeave,
}: {
  name: string;
  onAnswer: (body: string) => void;
  onLeave: () => void;
}) {
  const [body, setBody] = useKeptText(name);
  const send = (event?: FormEvent) => {
    event?.preventDefault();
    if (!body.trim()) return;
    onAnswer(body);
    setBody("");
    onLeave();
  };
  return (
    <form onSubmit={send} className="day-row-answer">
      <TextArea
        aria-label="Your answer"
        placeholder="Your answer (Ctrl Enter sends it)"
        rows={2}
        maxLength={20_000}
        autoFocus
        value={body}
        onChange={(event) => setBody(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) send();
          if (event.key === "Escape" && body === "") onLeave();
        }}
      />
      <div className="flex gap-2">
        <Button small look="strong" type="submit" disabled={!body.trim()}>
          Answer
        </Button>
        <Button small look="quiet" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
