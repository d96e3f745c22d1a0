"use client";
import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useState, type KeyboardEvent } from "react";
import { v4 as newId } from "uuid";
import { LONGEST_CRITERION, MOST_CRITERIA, type Criterion } from "@/core/item/criterion";
import { Check } from "@/ui/kit/check";
import { TextInput } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { ago } from "@/ui/kit/time";
import type { ItemHandle } from "./use-item";

/** The lines by which an item is accepted, ticked one by one, written and ordered in place. */
export function ItemCriteria({ handle }: { handle: ItemHandle }) {
  const { view, send, edit, reload } = handle;
  const { criteria, met } = view.item;
  const mayEdit = view.rights.edit && view.withdrawn === null;
  const [typed, setTyped] = useState("");
  if (criteria.length === 0 && !mayEdit) return null;
  const store = async (next: Criterion[]) => {
    try {
      await edit({ criteria: next });
      return true;
    } catch (error) {
      tellProblem(error);
      await reload();
      return false;
    }
  };
  const add = async () => {
    const text = typed.trim();
    if (text === "") return;
    setTyped("");
    if (!(await store([...criteria, { id: newId(), text }]))) setTyped(text);
  };
  const turn = async (criterionId: string, on: boolean) => {
    try {
      await send({ kind: "meet", criterionId, on });
    } catch (error) {
      tellProblem(error);
      await reload();
    }
  };
  const moved = (at: number, by: number) => {
    const next = [...criteria];
    next.splice(at + by, 0, ...next.splice(at, 1));
    void store(next);
  };
  return (
    <section aria-label="Accepted when">
      <h3 className="mb-1 flex items-baseline gap-2 text-[13px]">
        Accepted when
        {criteria.length > 0 && (
          <span className="figures font-normal text-ink-soft">
            {met.length} of {criteria.length} met
          </span>
        )}
      </h3>
      <ul>
        {criteria.map((criterion, at) => (
          <CriterionLine
            key={criterion.id}
            criterion={criterion}
            by={metBy(view, criterion.id)}
            mayEdit={mayEdit}
            onTurn={(on) => void turn(criterion.id, on)}
            onText={(text) =>
              void store(criteria.map((one) => (one === criterion ? { ...one, text } : one)))
            }
            onOff={() => void store(criteria.filter((one) => one !== criterion))}
            onUp={at > 0 ? () => moved(at, -1) : null}
            onDown={at < criteria.length - 1 ? () => moved(at, 1) : null}
          />
        ))}
      </ul>
      {mayEdit && criteria.length < MOST_CRITERIA && (
        <TextInput
          aria-label="New criterion"
          placeholder={
            criteria.length === 0 ? "What has to be true so that it is accepted?" : "And when …"
          }
          maxLength={LONGEST_CRITERION}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") void add();
          }}
        />
      )}
    </section>
  );
}

/** Who found a criterion met, and when, in words; null where nobody has. */
function metBy({ item, people, now }: ItemHandle["view"], criterionId: string): string | null {
  const found = item.met.find((one) => one.criterionId === criterionId);
  if (!found) return null;
  const name = people.find(({ id }) => id === found.byId)?.name ?? "somebody";
  return `${name}, ${ago(found.at, now)}`;
}

function CriterionLine({
  criterion: { text },
  by,
  mayEdit,
  onTurn,
  onText,
  onOff,
  onUp,
  onDown,
}: {
  criterion: Criterion;
  by: string | null;
  mayEdit: boolean;
  onTurn: (on: boolean) => void;
  onText: (text: string) => void;
  onOff: () => void;
  onUp: (() => void) | null;
  onDown: (() => void) | null;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const next = draft?.trim() ?? "";
    if (next !== "" && next !== text) onText(next);
    setDraft(null);
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Enter") commit();
    if (event.key === "Escape") setDraft(null);
    if (!event.altKey) return;
    if (event.key === "ArrowUp") onUp?.();
    if (event.key === "ArrowDown") onDown?.();
  };
  return (
    <li className="criterion">
      <Check aria-label={text} disabled={!mayEdit} checked={by !== null} onChange={onTurn} />
      {draft === null ? (
        <button
          type="button"
          disabled={!mayEdit}
          className="criterion-text"
          title={mayEdit ? "Change it" : undefined}
          onClick={() => setDraft(text)}
        >
          {text}
          {by !== null && <span className="text-[12.5px] text-ink-soft"> · {by}</span>}
        </button>
      ) : (
        <TextInput
          autoFocus
          aria-label="The criterion"
          maxLength={LONGEST_CRITERION}
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={onKey}
        />
      )}
      {mayEdit && (
        <span className="criterion-tools">
          <Tool label={`“${text}” further up`} onPress={onUp}>
            <ArrowUp size={13} aria-hidden="true" />
          </Tool>
          <Tool label={`“${text}” further down`} onPress={onDown}>
            <ArrowDown size={13} aria-hidden="true" />
          </Tool>
          <Tool label={`Take out “${text}”`} onPress={onOff}>
            <X size={13} aria-hidden="true" />
          </Tool>
        </span>
      )}
    </li>
  );
}

function Tool({
  label,
  onPress,
  children,
}: {
  label: string;
  onPress: (() => void) | null;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      className="criterion-tool"
      aria-label={label}
      disabled={onPress === null}
      onClick={() => onPress?.()}
    >
      {children}
    </button>
  );
}
