import { cutText } from "./cut-text";
import { SCXML } from "./scxml-names";
import type { XmlElement } from "./xml";

export const STATE_ELEMENTS: ReadonlySet<string> = new Set(["state", "parallel", "final"]);

/** An element's name without its prefix. */
export function local(e: XmlElement): string {
  return e.name.slice(e.name.indexOf(":") + 1);
}

/** All states, at any depth, in document order. */
export function statesBelow(e: XmlElement): XmlElement[] {
  return e.children.flatMap((c) =>
    STATE_ELEMENTS.has(local(c))
      ? [c, ...statesBelow(c)]
      : local(c) === "content" || local(c) === "invoke"
        ? []
        : [],
  );
}

/** States and histories that have an id. */
export function idsIn(root: XmlElement): Map<string, XmlElement> {
  const ids = new Map<string, XmlElement>();
  const walk = (e: XmlElement) => {
    for (const child of e.children) {
      if (!STATE_ELEMENTS.has(local(child)) && local(child) !== "history") continue;
      if (child.attributes.id) ids.set(child.attributes.id, child);
      walk(child);
    }
  };
  walk(root);
  return ids;
}

const words = (text: string | undefined) => (text ?? "").trim().split(/\s+/).filter(Boolean);

/**
 * What in a document breaks the rules of the recommendation (State Chart XML, W3C 2015, sections
 * 3.2 to 3.10) that reading it as a process depends on; empty where nothing does.
 */
export function checkScxml(root: XmlElement): string[] {
  const problems: string[] = [];
  const complain = (sentence: string) => void problems.push(sentence);
  const named = (e: XmlElement) => cutText(e.attributes.id ?? "without id", 60);
  // 3.2.1: the namespace and the version are required and fixed.
  const prefix = root.name.includes(":") ? `xmlns:${root.name.split(":")[0]}` : "xmlns";
  if (root.attributes[prefix] !== SCXML) complain(`The namespace has to be ${SCXML}.`);
  if (root.attributes.version !== "1.0") complain("The version has to be 1.0.");
  const all = statesBelow(root);
  if (all.length === 0) complain("It has no states.");
  const ids = idsIn(root);
  const seen = new Set<string>();
  for (const {
    attributes: { id },
  } of all) {
    if (id && seen.has(id)) complain(`Two states have the id “${cutText(id, 60)}”.`);
    if (id) seen.add(id);
  }
  const isBelow = (id: string, e: XmlElement) => [...idsIn(e).keys()].includes(id);
  const checkTarget = (target: string, where: string) => {
    if (!ids.has(target))
      complain(`${where} leads to “${cutText(target, 60)}”, which is no state of the file.`);
  };
  for (const e of [root, ...all]) {
    for (const start of words(e.attributes.initial)) {
      if (!ids.has(start))
        complain(
          `“${cutText(start, 60)}”, where ${e === root ? "the file" : named(e)} begins, is no state of the file.`,
        );
      // 3.2.2 and 3.3.2: the initial states are descendants.
      else if (e !== root && !isBelow(start, e))
        complain(`${named(e)} begins in “${cutText(start, 60)}”, which is not inside it.`);
    }
    const initials = e.children.filter((c) => local(c) === "initial");
    if (initials.length > 0 && e.attributes.initial !== undefined)
      complain(`${named(e)} says twice where it begins.`);
    for (const initial of initials) {
      // 3.6: one transition, without event or condition, with a target inside.
      const moves = initial.children.filter((c) => local(c) === "transition");
      if (
        moves.length !== 1 ||
        !moves[0].attributes.target ||
        moves[0].attributes.event ||
        moves[0].attributes.cond
      )
        complain(`Where ${named(e)} begins is not one plain move.`);
      else
        for (const target of words(moves[0].attributes.target))
          checkTarget(target, `Where ${named(e)} begins`);
    }
    for (const t of e.children.filter((c) => local(c) === "transition")) {
      // 3.5.1: a transition has at least one of event, cond and target.
      if (
        t.attributes.event === undefined &&
        t.attributes.cond === undefined &&
        t.attributes.target === undefined
      )
        complain(`A move of ${named(e)} has neither event, condition nor target.`);
      for (const target of words(t.attributes.target)) checkTarget(target, `A move of ${named(e)}`);
    }
    // 3.7: a final state has no states and no moves of its own.
    if (
      local(e) === "final" &&
      e.children.some((c) => STATE_ELEMENTS.has(local(c)) || local(c) === "transition")
    )
      complain(`The final state ${named(e)} has states or moves of its own.`);
  }
  return problems;
}
