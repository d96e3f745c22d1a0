"use client";
import { useState } from "react";
import { UNFINISHED, type ReadinessRow, type Unfinished } from "@/core/ship/release/release-page";
import { tagFor } from "@/core/ship/release/tag";
import { Check, Choice } from "@/ui/kit/check";
import { TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemWords } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import type { ReleasePageHandle } from "./use-release-page";

/** Asks once what becomes of all that is not finished, with another answer for some. */
export function OutForm({ handle, onLeave }: { handle: ReleasePageHandle; onLeave: () => void }) {
  const { view, goOut, tag } = handle;
  const [tagged, setTagged] = useState(view.taggable.length > 0);
  const [tagName, setTagName] = useState(tagFor(view.release?.name ?? ""));
  const open = view.rows.filter(({ stateKind }) => stateKind !== "finished");
  const [unfinished, setUnfinished] = useState<Unfinished>(view.next ? "next release" : "stays");
  const [except, setExcept] = useState<Record<string, Unfinished>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const wordsOf: Record<Unfinished, string> = {
    "next release": view.next ? `goes to ${view.next.name}` : "goes to the next release",
    "is out too": "is out too, and finished as delivered",
    "no release": "leaves it, for no release",
    stays: "stays in it, open",
  };
  const offered = UNFINISHED.filter(
    (one) =>
      (one !== "next release" || view.next !== null) &&
      (one !== "is out too" || open.some(({ canFinish }) => canFinish)),
  );
  const ofRow = ({ canFinish }: ReadinessRow) =>
    offered.filter((one) => one !== "is out too" || canFinish);
  const answerOf = (row: ReadinessRow): Unfinished => {
    const answer = except[row.id] ?? unfinished;
    return ofRow(row).includes(answer) ? answer : "stays";
  };
  const send = async () => {
    setBusy(true);
    const wrong = await goOut(unfinished, except);
    setBusy(false);
    if (wrong) return setProblem(problemWords(wrong));
    onLeave();
    // It is out, whatever becomes of the tags: they can be asked for again.
    if (tagged && tagName.trim())
      await tag(
        tagName.trim(),
        view.taggable.map(({ repositoryId }) => repositoryId),
      );
  };
  const said = view.notes.filter(({ internal, finished }) => finished && !internal).length;
  return (
    <form
      aria-label="It is out"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <p className="text-[13px]">
        Its notes are kept as they are now: {said} {said === 1 ? "line" : "lines"} of what is
        finished. {open.length === 0 && "Everything in it is finished."}
      </p>
      {open.length > 0 && (
        <>
          <div role="group" aria-label="What is not finished" className="flex flex-col gap-1">
            <p className="text-[13px] font-semibold">
              {open.length} {open.length === 1 ? "is" : "are"} not finished. Each of them
            </p>
            {offered.map((one) => (
              <Choice
                key={one}
                name="unfinished"
                checked={unfinished === one}
                onChange={() => setUnfinished(one)}
              >
                {wordsOf[one]}
              </Choice>
            ))}
          </div>
          <ul className="out-rows">
            {open.map((row) => (
              <Exception
                key={row.id}
                row={row}
                value={answerOf(row)}
                options={ofRow(row).map((one) => ({ value: one, label: wordsOf[one] }))}
                onChange={(answer) => setExcept({ ...except, [row.id]: answer })}
              />
            ))}
          </ul>
        </>
      )}
      {view.taggable.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 text-[13px]">
          <Check checked={tagged} onChange={setTagged}>
            Tag it in {view.taggable.map(({ repository }) => repository).join(", ")} as
          </Check>
          <TextInput
            aria-label="The tag"
            className="!w-[180px]"
            value={tagName}
            maxLength={100}
            disabled={!tagged}
            onChange={(event) => setTagName(event.target.value)}
          />
        </div>
      )}
      <FormFooter send="It is out" busy={busy} problem={problem} onLeave={onLeave} />
    </form>
  );
}

const Exception = ({
  row,
  value,
  options,
  onChange,
}: {
  row: ReadinessRow;
  value: Unfinished;
  options: { value: Unfinished; label: string }[];
  onChange: (answer: Unfinished) => void;
}) => (
  <li>
    <span className="min-w-0 truncate text-[13px]">
      <span className="key">{row.key}</span> {row.title}
    </span>
    <Select
      label={`What becomes of ${row.key}`}
      value={value}
      options={options}
      onChange={onChange}
    />
  </li>
);
