import { EVERY_ITEM, isRead, writtenConditionSchema } from "@/core/condition/condition";
import { holds } from "@/core/condition/evaluate";
import { asChain } from "@/core/condition/chain";
import { conditionSentence, writtenSentence } from "@/core/condition/sentence";
import { computedFields } from "@/core/item/compute-fields";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

export const condition = requirementKind({
  title: "a condition holds",
  refused: "a condition did not hold",
  parameters: { condition: writtenConditionSchema },
  begins: { condition: EVERY_ITEM },
  editors: { condition: { kind: "condition" } },
  words: ({ condition }, vocabulary) => {
    const chain = isRead(condition) ? asChain(condition) : null;
    return chain
      ? `if ${conditionSentence(chain.given, vocabulary)}, only when ${conditionSentence(chain.wanted, vocabulary)}`
      : `only when ${writtenSentence(condition, vocabulary)}`;
  },
  unmet: (r, { around, after, ownFields, asker, vocabulary }) => {
    const asked = { ...around, item: after, computed: computedFields(ownFields, after) };
    if (isRead(r.condition) && holds(r.condition, asked, asker)) return null;
    return refuse(
      "condition",
      "This move is for other items.",
      `It is made when ${writtenSentence(r.condition, vocabulary)}.`,
    );
  },
});
