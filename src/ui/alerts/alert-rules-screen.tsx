"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { alertsContract } from "@/core/alerts/contract";
import type { PersonHours } from "@/core/alerts/hours";
import type { AlertChoice } from "@/core/alerts/request";
import type { AlertRuleView, AlertRulesView } from "@/core/alerts/rules-view";
import { standardRule } from "@/core/alerts/standard-rules";
import { ButtonLink, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Mark } from "@/ui/kit/mark";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { Table } from "@/ui/kit/table";
import { FeedAndStops } from "./feed-and-stops";
import { MAIL_OPTIONS } from "./mail-words";
import { OwnRules } from "./own-rules";
import { HoursForm } from "./hours-form";

/** By which rules I hear of what happens, and when I may be written to. */
export function AlertRulesScreen({ initial }: { initial: AlertRulesView }) {
  const client = useQueryClient();
  const { data: view } = useQuery({
    ...queryOf(alertsContract.rules, {}),
    initialData: initial,
  });
  const choose = async (choice: AlertChoice) => {
    try {
      const told = await ask(alertsContract.choose, { body: choice });
      client.setQueryData(keyOf(alertsContract.rules), told);
    } catch (error) {
      tellProblem(error);
    }
  };
  const setHours = async (hours: PersonHours) => {
    try {
      const told = await ask(alertsContract.setHours, {
        body: { ...hours, workDays: [...hours.workDays], daysOff: [...hours.daysOff] },
      });
      client.setQueryData(keyOf(alertsContract.rules), { ...view, hours: told });
      tellDone("Your days are kept.");
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <main className="mx-auto flex max-w-[1180px] flex-col gap-5 px-6 py-8">
      <header className="flex items-center gap-3">
        <Mark size={36} />
        <div>
          <h1 className="text-[22px] leading-tight">How I hear</h1>
          <p className="text-ink-soft">
            Never of what I did myself. Mail goes to {view.mail}
            {view.sendsMail
              ? "."
              : ", once this installation sends mail: it has no mail server yet."}
          </p>
        </div>
        <ButtonLink href="/" look="quiet" className="ml-auto">
          Back to work
        </ButtonLink>
      </header>
      <div className="grid items-start gap-6 lg:grid-cols-[1fr_320px]">
        <div className="flex min-w-0 flex-col gap-6">
          <Rules rules={view.rules} choose={choose} />
          <OwnRules view={view} />
        </div>
        <div className="flex flex-col gap-4">
          <HoursForm initial={view.hours} onSave={setHours} />
          <FeedAndStops view={view} />
        </div>
      </div>
    </main>
  );
}

function Rules({
  rules,
  choose,
}: {
  rules: readonly AlertRuleView[];
  choose: (choice: AlertChoice) => Promise<void>;
}) {
  const set = ({ id, ways }: AlertRuleView, change: Partial<AlertChoice>) =>
    void choose({ rule: id, ...ways, ...change });
  return (
    <Table
      label="When I am told"
      className="alert-rules w-full"
      rows={rules}
      keyOf={(rule) => rule.id}
      dataOf={(rule) => ({ "data-rule": rule.id })}
      columns={[
        {
          head: "When",
          cell: (rule) => (
            <span className={rule.ways.off ? "text-ink-soft line-through" : ""}>{rule.title}</span>
          ),
        },
        {
          head: "My list",
          cell: (rule) => (
            <Check
              aria-label={`List: ${rule.title}`}
              checked={!rule.ways.off}
              onChange={(on) => set(rule, { off: !on })}
            />
          ),
        },
        {
          head: "Mail",
          cell: (rule) => (
            <Select
              label={`Mail: ${rule.title}`}
              plain
              disabled={rule.ways.off}
              value={rule.ways.mail}
              options={MAIL_OPTIONS}
              onChange={(mail) => set(rule, { mail })}
            />
          ),
        },
        {
          head: "Feed",
          cell: (rule) => (
            <Check
              aria-label={`Feed: ${rule.title}`}
              checked={rule.ways.feed}
              disabled={rule.ways.off}
              onChange={(feed) => set(rule, { feed })}
            />
          ),
        },
        {
          head: <span className="sr-only">As begun</span>,
          className: "!text-right",
          cell: (rule) =>
            !rule.asBegun && (
              <TextButton
                className="text-[13px]"
                aria-label={`As everybody begins: ${rule.title}`}
                onClick={() => set(rule, standardRule(rule.id).ways)}
              >
                As everybody begins
              </TextButton>
            ),
        },
      ]}
    />
  );
}
