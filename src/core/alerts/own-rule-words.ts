import { capital } from "@/core/formats/capital";
import { listWords } from "@/core/formats/list-words";
import { ruleHappeningWords, type OwnRule } from "./own-rule";

/** How to name what a rule refers to by id or key. */
export interface RuleNames {
  project: (key: string) => string;
  type: (id: string) => string;
  person: (id: string) => string;
  team: (id: string) => string;
  field: (id: string) => string;
  /** A condition as a sentence; left out where it is shown apart. */
  condition?: (condition: NonNullable<OwnRule["condition"]>) => string;
}

/**
 * A rule as a sentence.
 * @example "A bug in Ticket app: it is sent back or it is reopened, by Noor Bakri"
 */
export function ownRuleSentence(
  rule: Pick<OwnRule, "projectKey" | "typeIds" | "happens" | "fields" | "by" | "condition">,
  names: RuleNames,
): string {
  const kinds = rule.typeIds.map((id) => names.type(id).toLocaleLowerCase("en"));
  const what = kinds.length === 0 ? "Any item" : capital(listWords(kinds, "or"));
  const where = rule.projectKey === null ? "" : ` in ${names.project(rule.projectKey)}`;
  const fields = rule.fields.map(names.field);
  const happens = rule.happens.map((kind) =>
    kind === "changed" && fields.length > 0
      ? `its ${listWords(fields, "or")} changes`
      : ruleHappeningWords(kind),
  );
  const when = happens.length === 0 ? "anything happens to it" : listWords(happens, "or");
  const words = `${what}${where}: ${when}${doerWords(rule, names)}`;
  return rule.condition && names.condition
    ? `${words}, and ${names.condition(rule.condition)}`
    : words;
}

function doerWords({ by }: Pick<OwnRule, "by">, names: RuleNames): string {
  switch (by.kind) {
    case "anybody":
      return "";
    case "process":
      return ", by the process itself";
    case "requesters":
      return ", by whoever reported it";
    case "people":
      return `, by ${listWords(by.ids.map(names.person), "or")}`;
    case "teams":
      return `, by somebody of ${listWords(by.ids.map(names.team), "or")}`;
  }
}
