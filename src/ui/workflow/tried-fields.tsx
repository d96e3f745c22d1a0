"use client";

import { useState } from "react";
import { EDITABLE_FIELDS, itemField, type Approval, type EditableField } from "@/core/item/fields";
import { fieldsOfType, isDerived } from "@/core/item/own-field";
import { NOTHING_OUTSIDE } from "@/core/item/outside";
import { askedOfItems } from "@/core/workflow/asked-fields";
import type { DesignView } from "@/core/workflow/design-view";
import type { Workflow } from "@/core/workflow/workflow";
import { choicesOf, ItemFieldEditor } from "@/ui/item/field-editor";
import { OwnFieldInput } from "@/ui/item/own-field-input";
import { Check } from "@/ui/kit/check";
import { CommitNumber } from "@/ui/kit/commit-input";
import { Field } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { SelectSeveral } from "@/ui/kit/select-several";
import type { Tried } from "./use-tried";

interface Props {
  draft: Workflow;
  view: DesignView;
  tried: Tried;
}

/** Always there: who does it is what most rules are about. */
const USUAL: readonly EditableField[] = ["typeId", "assigneeId", "reviewerId"];

/** What is said of the item that is tried, as far as a rule asks for it, and who moves it. */
export function TriedFields({ draft, view, tried }: Props) {
  const { item, set } = tried;
  const { vocabulary } = view.around;
  const [all, setAll] = useState(false);
  const asked = askedOfItems(draft);
  const shown = EDITABLE_FIELDS.filter(
    (f) =>
      f !== "title" && f !== "criteria" && (all || USUAL.includes(f) || asked.fields.includes(f)),
  );
  const named = {
    ...vocabulary,
    people: view.people,
    types: vocabulary.types.filter((t) => t.workflowId === draft.id),
  };
  return (
    <div className="flex flex-col gap-2">
      <Field label="Moved by">
        <Select
          value={tried.as}
          options={view.people.map((p) => ({ value: p.id, label: `${p.name}, ${p.role}` }))}
          onChange={tried.setAs}
        />
      </Field>
      <div
        className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5"
        role="group"
        aria-label="Its fields"
      >
        {shown.map((field) => (
          <ItemFieldEditor
            key={field}
            field={{ ...itemField(field), panel: "narrow" }}
            value={item[field]}
            options={choicesOf(itemField(field), named)}
            projectKey={view.project.key}
            locked={false}
            onStore={async (value) => set({ [field]: value })}
          />
        ))}
      </div>
      <TriedFacts view={view} tried={tried} asked={asked} />
      <TriedOwnFields view={view} tried={tried} />
      <Check checked={all} onChange={setAll} className="text-[13px]">
        all fields, also those that no rule asks for
      </Check>
    </div>
  );
}

/** What is true of the item beside its fields, where a rule asks for it. */
function TriedFacts({
  view,
  tried: { item, set, openChildren, setOpenChildren },
  asked,
}: Pick<Props, "view" | "tried"> & { asked: ReturnType<typeof askedOfItems> }) {
  const merged = item.outside.changes.length > 0;
  const now = item.updatedAt;
  const workers = view.people.filter((p) => p.role !== "observer");
  const approvalOf = (byId: string): Approval => {
    const lead = workers.find((p) => p.id === byId)?.role === "lead";
    return { byId, role: lead ? "lead" : "member", at: now };
  };
  return (
    <>
      {asked.approvals && (
        <Field label="Approved by">
          <SelectSeveral
            label="Approved by"
            className="w-full"
            values={item.approvals.map((a) => a.byId)}
            options={workers.map((p) => ({ value: p.id, label: p.name }))}
            onChange={(ids) => set({ approvals: ids.map(approvalOf) })}
          />
        </Field>
      )}
      {asked.openChildren && (
        <Field label="Parts of it that are open">
          <CommitNumber
            value={openChildren}
            disabled={false}
            onCommit={(n) => setOpenChildren(Math.round(n ?? 0))}
          />
        </Field>
      )}
      {asked.blockers && (
        <Check
          className="text-[13px]"
          checked={item.openBlockers.length > 0}
          onChange={(on) =>
            set({
              blockedSince: on ? now : null,
              openBlockers: on
                ? [{ id: "tried", cause: "something to try", waitingFor: null, since: now }]
                : [],
            })
          }
        >
          something blocks it
        </Check>
      )}
      {asked.changes && (
        <Check
          className="text-[13px]"
          checked={merged}
          onChange={(on) =>
            set({
              outside: on
                ? {
                    ...NOTHING_OUTSIDE,
                    changes: [{ id: "tried", status: "merged", checks: "passed", review: null }],
                  }
                : NOTHING_OUTSIDE,
            })
          }
        >
          its change is merged, and its checks passed
        </Check>
      )}
    </>
  );
}

/** What is said in the project's own fields. */
function TriedOwnFields({ view, tried: { item, set } }: Pick<Props, "view" | "tried">) {
  const written = fieldsOfType(view.around.vocabulary.own, item.typeId).filter(
    (f) => !isDerived(f.kind),
  );
  return written.map((f) => (
    <Field key={f.id} label={f.name}>
      <OwnFieldInput
        field={f}
        value={item.own[f.id] ?? null}
        people={view.people}
        onChange={(value) => {
          const { [f.id]: _, ...others } = item.own;
          set({ own: value === null ? others : { ...others, [f.id]: value } });
        }}
      />
    </Field>
  ));
}
