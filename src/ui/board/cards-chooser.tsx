"use client";
import { readAcrossKey } from "@/core/across/place";
import {
  CARD_MORE,
  CARD_MORE_WORDS,
  DENSITIES,
  isOnCard,
  LONGEST_WORD,
  MOST_MARKS,
  MOST_ON_CARD,
  SIGNS,
  TONES,
  USUAL_CARDS,
  type CardLook,
  type CardMark,
  type Density,
} from "@/core/board/card-look";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import { AddMenu } from "@/ui/kit/add-menu";
import { TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { CommitNumber, CommitText } from "@/ui/kit/commit-input";
import { Field } from "@/ui/kit/field";
import { ListEditor } from "@/ui/kit/list-editor";
import { Popover } from "@/ui/kit/popover";
import { Select, wordOptions } from "@/ui/kit/select";
import type { LookHandle } from "@/ui/view/use-look";
import { ConditionList } from "./condition-list";
import { SIGN_ICONS } from "./card-mark";
import { setOwnDensity, useOwnDensity } from "./use-density";

const AS_THE_VIEW = "as the view says";

/** What cards say, how large they are and what is marked on them, in the sentence above the board. */
export function CardsChooser({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary } = views;
  const { cards } = look;
  const { facts, more, stayFrom, density } = cards;
  const put = (next: Partial<CardLook>) => change({ cards: { ...cards, ...next } });
  const own = useOwnDensity();
  const name = (fact: FactName) => factLabel(fact, vocabulary);
  const free = factsOffered(vocabulary).filter((f) => isOnCard(f) && !facts.includes(f));
  const apart = readAcrossKey(handle.projectKey) === null;
  // What several projects deliver together nobody foretells.
  const offered = CARD_MORE.filter((one) => one !== "probably" || apart);
  const usual = JSON.stringify(cards) === JSON.stringify(USUAL_CARDS);
  const words = usual ? "the usual" : counted(facts.length + more.length, "thing");
  return (
    <>
      <span>on cards</span>
      <Popover
        label="Cards"
        className="max-h-[70vh] w-[420px] overflow-y-auto"
        trigger={
          <button type="button" className="in-words" aria-label={`On cards ${words}`}>
            {words}
          </button>
        }
      >
        <div className="flex flex-col gap-3">
          <ListEditor
            label="What cards say"
            items={facts}
            keyOf={(fact) => fact}
            nameOf={name}
            row={(fact) => <span className="text-[13px]">{name(fact)}</span>}
            empty="Only key and title."
            onRemove={(at) => put({ facts: facts.toSpliced(at, 1) })}
            onMove={(from, to) =>
              put({ facts: facts.toSpliced(from, 1).toSpliced(to, 0, facts[from]) })
            }
          >
            {facts.length < MOST_ON_CARD && (
              <AddMenu
                label="Say something else"
                options={free.map((fact) => ({ value: fact, label: name(fact) }))}
                onAdd={(fact) => put({ facts: [...facts, fact] })}
              />
            )}
          </ListEditor>
          <div role="group" aria-label="And besides" className="flex flex-col gap-1">
            {offered.map((one) => (
              <Check
                key={one}
                checked={more.includes(one)}
                onChange={(on) =>
                  put({
                    more: CARD_MORE.filter((each) => (each === one ? on : more.includes(each))),
                  })
                }
              >
                {CARD_MORE_WORDS[one]}
              </Check>
            ))}
          </div>
          {facts.includes("daysInState") && (
            <Field label="Days in state, from how many on">
              <CommitNumber
                value={stayFrom}
                disabled={false}
                onCommit={(n) => put({ stayFrom: Math.max(0, Math.round(n ?? 0)) })}
              />
            </Field>
          )}
          <div className="grid grid-cols-2 gap-2">
            <Field label="How large">
              <Select
                value={density}
                options={wordOptions(DENSITIES)}
                onChange={(next) => put({ density: next })}
              />
            </Field>
            <Field label="On this machine, for me">
              <Select
                value={own ?? AS_THE_VIEW}
                options={wordOptions([AS_THE_VIEW, ...DENSITIES])}
                onChange={(next) => setOwnDensity(next === AS_THE_VIEW ? null : (next as Density))}
              />
            </Field>
          </div>
          <Marks handle={handle} marks={cards.marks} onChange={(marks) => put({ marks })} />
          {!usual && (
            <TextButton className="self-start" onClick={() => change({ cards: USUAL_CARDS })}>
              the usual cards again
            </TextButton>
          )}
        </div>
      </Popover>
    </>
  );
}

/** The marks of cards, from the one that is asked first. */
function Marks({
  handle,
  marks,
  onChange,
}: {
  handle: LookHandle;
  marks: readonly CardMark[];
  onChange: (marks: CardMark[]) => void;
}) {
  const sign = SIGNS[marks.length % SIGNS.length];
  return (
    <section aria-label="Marks" className="border-t border-line pt-2">
      <h3 className="text-[13px]">Marks, the first that is true</h3>
      <ConditionList
        handle={handle}
        label="Marks"
        addLabel="Add a mark"
        items={marks}
        most={MOST_MARKS}
        nameOf={({ word }) => word}
        made={(name, condition): CardMark => ({
          word: (name ?? `Mark ${marks.length + 1}`).slice(0, LONGEST_WORD),
          sign,
          tone: "look here",
          condition,
        })}
        head={(mark, i, set) => <MarkFields mark={mark} at={i} set={set} />}
        onChange={onChange}
      />
    </section>
  );
}

/** The sign of a mark, its word, and how loud it is. */
function MarkFields({
  mark: { sign, word, tone },
  at,
  set,
}: {
  mark: CardMark;
  at: number;
  set: (change: Partial<CardMark>) => void;
}) {
  return (
    <div className="flex items-center gap-1">
      <SignMark sign={sign} />
      <Select
        plain
        label={`Sign of mark ${at + 1}`}
        value={sign}
        options={wordOptions(SIGNS)}
        onChange={(next) => set({ sign: next })}
      />
      <CommitText
        label={`Word of mark ${at + 1}`}
        value={word}
        max={LONGEST_WORD}
        disabled={false}
        required
        onCommit={(next) => set({ word: next })}
      />
      <Select
        plain
        label={`Tone of mark ${at + 1}`}
        value={tone}
        options={wordOptions(TONES)}
        onChange={(next) => set({ tone: next })}
      />
    </div>
  );
}

function SignMark({ sign }: Pick<CardMark, "sign">) {
  const Icon = SIGN_ICONS[sign];
  return <Icon size={14} className="shrink-0" aria-hidden="true" />;
}
