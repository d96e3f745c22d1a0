"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { alertsContract } from "@/core/alerts/contract";
import { NEW_OWN_RULE, type OwnRule } from "@/core/alerts/own-rule";
import type { OwnRuleAct } from "@/core/alerts/request";
import type { AlertRulesView, OwnRuleView } from "@/core/alerts/rules-view";
import { Button, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { Table } from "@/ui/kit/table";
import { MAIL_OPTIONS } from "./mail-words";
import { OwnRuleForm } from "./own-rule-form";

/** The rules that I made for myself, and how each of them tells me. */
export function OwnRules({ view }: { view: AlertRulesView }) {
  const client = useQueryClient();
  const [open, setOpen] = useState<{ id: string; rule: OwnRule } | null>(null);
  const act = async (body: OwnRuleAct) =>
    client.setQueryData(keyOf(alertsContract.rules), await ask(alertsContract.ownRule, { body }));
  const set = ({ id, rule }: OwnRuleView, change: Partial<OwnRule>) =>
    void act({ kind: "keep", id, rule: { ...rule, ...change } }).catch(tellProblem);
  const remove = async ({ id, rule }: OwnRuleView) => {
    try {
      await act({ kind: "remove", id });
      tellDone(
        `“${rule.name}” is taken out.`,
        async () => void (await act({ kind: "bring back", id })),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  const first = view.projects.length === 1 ? view.projects[0].key : null;
  return (
    <section aria-labelledby="own-rules" className="flex flex-col gap-2">
      <div className="flex items-baseline gap-3">
        <h2 id="own-rules" className="text-[17px]">
          Rules of my own
        </h2>
        {!open && (
          <Button
            small
            className="ml-auto"
            onClick={() => setOpen({ id: newId(), rule: { ...NEW_OWN_RULE, projectKey: first } })}
          >
            Make a rule
          </Button>
        )}
      </div>
      {open && (
        <OwnRuleForm
          key={open.id}
          begun={open.rule}
          projects={view.projects}
          isNew={view.own.every(({ id }) => id !== open.id)}
          onKeep={async (rule) => {
            await act({ kind: "keep", id: open.id, rule });
            setOpen(null);
          }}
          onLeave={() => setOpen(null)}
        />
      )}
      {view.own.length === 0 ? (
        !open && (
          <p className="text-[13px] text-ink-soft">
            None yet. A rule tells you of what the ones above do not: every bug that is sent back,
            whatever a team does to what is expedite, a field that somebody changes. It can be tried
            on the last 30 days before it is kept.
          </p>
        )
      ) : (
        <RuleTable
          rules={view.own}
          set={set}
          onChange={({ id, rule }) => setOpen({ id, rule })}
          onRemove={(rule) => void remove(rule)}
        />
      )}
    </section>
  );
}

function RuleTable({
  rules,
  set,
  onChange,
  onRemove,
}: {
  rules: readonly OwnRuleView[];
  set: (rule: OwnRuleView, change: Partial<OwnRule>) => void;
  onChange: (rule: OwnRuleView) => void;
  onRemove: (rule: OwnRuleView) => void;
}) {
  return (
    <Table
      label="Rules of my own"
      className="alert-rules w-full"
      rows={rules}
      keyOf={({ id }) => id}
      columns={[
        {
          head: "When",
          cell: ({ rule, sentence }) => (
            <span className={rule.off ? "text-ink-soft line-through" : ""}>
              {rule.name !== "" && !sentence.startsWith(rule.name) && (
                <strong className="block">{rule.name}</strong>
              )}
              {sentence}
            </span>
          ),
        },
        {
          head: "My list",
          cell: (own) => (
            <Check
              aria-label={`List: ${own.rule.name}`}
              checked={!own.rule.off}
              disabled={own.hidden}
              onChange={(on) => set(own, { off: !on })}
            />
          ),
        },
        {
          head: "Mail",
          cell: (own) => (
            <Select
              label={`Mail: ${own.rule.name}`}
              plain
              disabled={own.rule.off || own.hidden}
              value={own.rule.mail}
              options={MAIL_OPTIONS}
              onChange={(mail) => set(own, { mail })}
            />
          ),
        },
        {
          head: "Feed",
          cell: (own) => (
            <Check
              aria-label={`Feed: ${own.rule.name}`}
              checked={own.rule.feed}
              disabled={own.rule.off || own.hidden}
              onChange={(feed) => set(own, { feed })}
            />
          ),
        },
        {
          head: <span className="sr-only">Change</span>,
          className: "!text-right whitespace-nowrap",
          cell: (own) => (
            <span className="inline-flex gap-3 text-[13px]">
              {!own.hidden && (
                <TextButton aria-label={`Change: ${own.rule.name}`} onClick={() => onChange(own)}>
                  Change
                </TextButton>
              )}
              <TextButton aria-label={`Take out: ${own.rule.name}`} onClick={() => onRemove(own)}>
                Take out
              </TextButton>
            </span>
          ),
        },
      ]}
    />
  );
}
