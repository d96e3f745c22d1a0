"use client";
import type { OwnField } from "@/core/item/own-field";
import {
  SHOWN_FROM,
  SHOWN_FROM_NAMES,
  shownBys,
  shownKind,
  shownValues,
  sourceWords,
  type ShownBy,
  type ShownFrom,
  type ShownKind,
  type ShownSource,
} from "@/core/item/shown-source";
import { Field } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import type { FieldDraft } from "./field-places";

const BY_WORDS: Record<ShownBy, string> = {
  sum: "their sum",
  count: "how many they are",
  earliest: "the earliest",
  latest: "the latest",
  list: "all of them, as a list",
};

/** Of what a value is shown, which one, and what several come to. */
export function SourceFields({
  draft: { source, kind },
  isNew,
  fields,
  onChange,
}: {
  draft: FieldDraft;
  /** Once it is stored, it stays a number, a day or a text. */
  isNew: boolean;
  /** The other fields of the project. */
  fields: readonly OwnField[];
  onChange: (source: ShownSource, kind: ShownKind) => void;
}) {
  const put = (next: ShownSource) => {
    const shown = shownKind(next, fields);
    if (shown !== null) onChange(next, shown);
  };
  /** A source as it begins: what can be shown first of it. */
  const begin = (from: ShownFrom, of = shownValues(from, fields)[0].of) => {
    const value = shownValues(from, fields).find((one) => one.of === of)!;
    const { several } = SHOWN_FROM[from];
    put({ from, of, by: several ? shownBys(value.kind)[0] : null });
  };
  const fits = (next: ShownSource) => isNew || shownKind(next, fields) === kind;
  const values = source === null ? [] : shownValues(source.from, fields);
  const value = values.find(({ of }) => of === source?.of);
  const bys = value === undefined ? [] : shownBys(value.kind);
  const offered = values.filter(
    ({ of, kind: as }) =>
      source !== null &&
      (SHOWN_FROM[source.from].several
        ? shownBys(as).some((by) => fits({ ...source, of, by }))
        : fits({ ...source, of })),
  );
  return (
    <>
      <Field label="Of">
        <Select
          value={source?.from ?? ""}
          placeholder="Choose what it is linked to"
          options={SHOWN_FROM_NAMES.map((from) => ({ value: from, label: SHOWN_FROM[from].words }))}
          disabled={!isNew}
          onChange={(from) => begin(from as ShownFrom)}
        />
      </Field>
      {source && (
        <Field label="It shows">
          <Select
            value={source.of}
            options={offered.map(({ of, label }) => ({ value: of, label }))}
            onChange={(of) =>
              isNew || !SHOWN_FROM[source.from].several
                ? begin(source.from, of)
                : put({
                    ...source,
                    of,
                    by:
                      shownBys(values.find((v) => v.of === of)!.kind).find((by) =>
                        fits({ ...source, of, by }),
                      ) ?? null,
                  })
            }
          />
        </Field>
      )}
      {source && SHOWN_FROM[source.from].several && (
        <Field label="Where there are several">
          <Select
            value={source.by ?? ""}
            options={bys
              .filter((by) => fits({ ...source, by }))
              .map((by) => ({ value: by, label: BY_WORDS[by] }))}
            onChange={(by) => put({ ...source, by: by as ShownBy })}
          />
        </Field>
      )}
      {source && (
        <p className="text-[12.5px] text-ink-soft">
          Shows {sourceWords(source, fields)}. Whoever may not see the other item sees nothing of it
          here.
        </p>
      )}
    </>
  );
}
