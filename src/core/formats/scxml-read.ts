import { counted } from "./counted";
import { cutText } from "./cut-text";
import { parseCel } from "@/core/condition/cel-parse";
import type { Vocabulary } from "@/core/condition/vocabulary";
import {
  MOST_STATES,
  MOST_TRANSITIONS,
  STATE_NAME_LENGTH,
  stateSchema,
  transitionSchema,
  workflowSchema,
} from "@/core/workflow/definition";
import { PLAIN_TRANSITION, type Transition, type Workflow } from "@/core/workflow/workflow";
import { PLAIN_STATE, type State, type StateKind } from "@/core/workflow/state";
import { checkScxml, idsIn, local, statesBelow, STATE_ELEMENTS } from "./scxml-rules";
import { EXTENSION, SCXML } from "./scxml-names";
import { FileProblem, readXml, type XmlElement } from "./xml";

/** What was made of a file, told sentence by sentence. */
export interface ImportedWorkflow {
  workflow: Workflow;
  taken: string[];
  left: string[];
}

/**
 * Reads SCXML. What this product wrote comes back as it was; of other files it takes what a process
 * of one item at a time can be, and says what it did not take.
 * @param newId gives a fresh id at each call
 * @throws FileProblem when it is no SCXML document, or breaks the recommendation's rules so that it
 *   cannot be read
 */
export function readScxml(
  text: string,
  vocabulary: Vocabulary,
  newId: () => string,
): ImportedWorkflow {
  const root = readXml(text);
  if (local(root) !== "scxml")
    throw new FileProblem(
      `This is an XML file, but no SCXML: it begins with <${cutText(root.name, 60)}>.`,
    );
  const problems = checkScxml(root);
  if (problems.length > 0) throw new FileProblem(problems.slice(0, 5).join(" "));
  const prefix = Object.entries(root.attributes)
    .find(([name, value]) => name.startsWith("xmlns:") && value === EXTENSION)?.[0]
    .slice(6);
  if (statesBelow(root).length > MOST_STATES * 2)
    throw new FileProblem(
      `The file has ${statesBelow(root).length} states; at most ${MOST_STATES} are taken.`,
    );
  return prefix === undefined
    ? new ForeignReader(root, vocabulary, newId).read()
    : readOwn(root, prefix);
}

/** A document that this product wrote. */
function readOwn(root: XmlElement, prefix: string): ImportedWorkflow {
  const own = (e: XmlElement, name: string) => e.attributes[`${prefix}:${name}`] ?? null;
  const rules = (e: XmlElement): object => {
    const text = e.children.find((c) => c.name === `${prefix}:rules`)?.text;
    if (text === undefined) return {};
    try {
      return JSON.parse(text) as object;
    } catch {
      throw new FileProblem(
        "The rules in this file were changed by hand and cannot be read any more.",
      );
    }
  };
  const elements = statesBelow(root).filter((e) => own(e, "id") !== null);
  const number = (text: string | null) => (text === null ? null : Number(text));
  const idOf = new Map(elements.map((e) => [e.attributes.id, own(e, "id")!]));
  const states = elements.map((e) => {
    const { stage, team, name, kind, position } = Object.fromEntries(
      ["stage", "team", "name", "kind", "position"].map((n) => [n, own(e, n)]),
    );
    return stateSchema.parse({
      ...rules(e),
      id: own(e, "id"),
      name,
      kind,
      stage,
      position: Number(position),
      teamId: team,
      byReviewer: own(e, "by-reviewer") === "true",
      expectedDays: number(own(e, "expected-days")),
      tooOldDays: number(own(e, "too-old-days")),
    });
  });
  const moves = new Map<string, Transition>();
  const visit = (e: XmlElement, from: string | null) => {
    for (const child of e.children) {
      if (local(child) === "transition") {
        const id = own(child, "id") ?? "";
        const known = moves.get(id);
        // A move that leads from several states stands in each of them.
        if (known) known.from = known.from === null || from === null ? null : [...known.from, from];
        else
          moves.set(
            id,
            transitionSchema.parse({
              ...rules(child),
              id,
              verb: own(child, "verb"),
              to: idOf.get(child.attributes.target),
              from: from === null ? null : [from],
            }),
          );
      } else if (STATE_ELEMENTS.has(local(child))) visit(child, own(child, "id"));
    }
  };
  visit(root, null);
  const parsed = workflowSchema.safeParse({
    id: own(root, "id"),
    version: Number(own(root, "version")),
    name: root.attributes.name,
    states,
    transitions: [...moves.values()],
  });
  if (!parsed.success)
    throw new FileProblem(`The file does not hold together: ${parsed.error.issues[0].message}`);
  return {
    workflow: parsed.data,
    taken: [
      `All ${counted(states.length, "state")} and ${counted(moves.size, "move")}, with their rules.`,
    ],
    left: [],
  };
}

const WAITING = /\b(wait|waiting|queue|queued|pending|idle|ready|hold|paused?|blocked|off)\b/i;

/**
 * A document that somebody else wrote: states and moves are taken, what runs inside a machine is
 * not.
 */
class ForeignReader {
  private readonly taken: string[] = [];
  private readonly left: string[] = [];
  private readonly elements: Map<string, XmlElement>;
  private readonly parents = new Map<XmlElement, XmlElement>();
  private readonly states: State[] = [];
  private readonly idOf = new Map<XmlElement, string>();

  constructor(
    private readonly root: XmlElement,
    private readonly vocabulary: Vocabulary,
    private readonly newId: () => string,
  ) {
    this.elements = idsIn(root);
    const walk = (e: XmlElement) => {
      for (const child of e.children) {
        this.parents.set(child, e);
        walk(child);
      }
    };
    walk(root);
  }

  read(): ImportedWorkflow {
    const atomic = statesBelow(this.root).filter(
      (e) => local(e) !== "history" && innerStates(e).length === 0,
    );
    const first = this.entry(this.root);
    const ordered = first ? [first, ...atomic.filter((e) => e !== first)] : atomic;
    const inOrder = [
      ...ordered.filter((e) => local(e) !== "final"),
      ...ordered.filter((e) => local(e) === "final"),
    ];
    if (inOrder.length > MOST_STATES)
      throw new FileProblem(
        `The file has ${inOrder.length} states; at most ${MOST_STATES} are taken.`,
      );
    for (const [position, e] of inOrder.entries()) this.takeState(e, position, e === first);
    this.tellAboutParts();
    const transitions = this.takeMoves(inOrder);
    if (!this.states.some((s) => s.kind === "finished"))
      this.left.push(
        "Nothing in the file is final: no state is finished yet. Choose where work ends.",
      );
    this.left.push(
      "SCXML does not know whether somebody works or something waits in a state: the kinds were guessed from the names.",
    );
    const name = cutText((this.root.attributes.name ?? "").trim(), 80) || "Imported process";
    return {
      workflow: { id: this.newId(), name, version: 1, states: this.states, transitions },
      taken: this.taken,
      left: [...new Set(this.left)],
    };
  }

  private takeState(e: XmlElement, position: number, isFirst: boolean): void {
    const id = this.newId();
    this.idOf.set(e, id);
    const given = (e.attributes.id ?? "").trim() || (local(e) === "final" ? "Finished" : "State");
    const readable = (given.charAt(0).toUpperCase() + given.slice(1)).replace(/[_.]+/g, " ").trim();
    const name = this.freeName(readable || given);
    const kind: StateKind =
      local(e) === "final"
        ? "finished"
        : isFirst
          ? "unstarted"
          : WAITING.test(readable)
            ? "waiting"
            : "working";
    const parent = this.parents.get(e);
    const stage =
      parent && parent !== this.root && parent.attributes.id
        ? cutText(parent.attributes.id.replace(/[_.]+/g, " "), 60)
        : null;
    this.states.push({ ...PLAIN_STATE, id, name, kind, stage, position });
    this.taken.push(`State ${name}, as ${kind}${stage ? `, in the stage ${stage}` : ""}.`);
    if (name !== readable)
      this.left.push(
        `“${cutText(given, 80)}” is called ${name}: names are unique and have at most ${STATE_NAME_LENGTH} characters.`,
      );
  }

  private freeName(wanted: string): string {
    const base = cutText(wanted, STATE_NAME_LENGTH - 4);
    for (let n = 1; ; n++) {
      const name = n === 1 ? cutText(wanted, STATE_NAME_LENGTH) : `${base} ${n}`;
      if (!this.states.some((s) => s.name.toLowerCase() === name.toLowerCase())) return name;
    }
  }

  /** What a machine does, and an item in a process does not. */
  private tellAboutParts(): void {
    const counts = new Map<string, number>();
    const walk = (e: XmlElement) => {
      for (const child of e.children) {
        counts.set(local(child), (counts.get(local(child)) ?? 0) + 1);
        walk(child);
      }
    };
    walk(this.root);
    const tell = (element: string, sentence: (n: number) => string) => {
      const n = counts.get(element);
      if (n) this.left.push(sentence(n));
    };
    const many = (n: number, one: string) => (n === 1 ? `1 ${one}` : `${n} ${one}s`);
    tell(
      "parallel",
      (n) =>
        `${many(n, "parallel part")}: an item is in one state at a time, so what would run side by side stands one after the other.`,
    );
    tell(
      "history",
      (n) =>
        `${many(n, "history state")}: what returns to where it was goes to where the history says by default, or where that part begins.`,
    );
    tell("datamodel", () => "The data model: an item's fields are its data.");
    tell(
      "onentry",
      (n) =>
        `What ${many(n, "state")} would do on entry: write it as a follow-up of the moves that lead there.`,
    );
    tell(
      "onexit",
      (n) =>
        `What ${many(n, "state")} would do on leaving: write it as a follow-up of the moves that lead away.`,
    );
    tell("invoke", (n) => `${many(n, "invoked service")}: nothing is started from a process.`);
    tell("script", (n) => `${many(n, "script")}: nothing of a file is ever run.`);
  }

  private takeMoves(atomic: readonly XmlElement[]): Transition[] {
    const moves: Transition[] = [];
    const all = new Set([...this.elements.values(), ...statesBelow(this.root)]);
    for (const source of all) {
      const from = atomic.filter((e) => this.isWithin(e, source)).map((e) => this.idOf.get(e)!);
      for (const t of source.children.filter((c) => local(c) === "transition")) {
        if (moves.length >= MOST_TRANSITIONS)
          throw new FileProblem(`The file has more than ${MOST_TRANSITIONS} moves.`);
        const move = this.takeMove(t, source, from);
        if (move) moves.push(move);
      }
    }
    return moves;
  }

  private takeMove(t: XmlElement, source: XmlElement, from: readonly string[]): Transition | null {
    const event = t.attributes.event?.trim() ?? "";
    const where = source.attributes.id ?? "a state";
    const label = event
      ? `“${cutText(event, 60)}” from ${cutText(where, 60)}`
      : `A move from ${cutText(where, 60)} without an event`;
    const target = (t.attributes.target ?? "").trim().split(/\s+/)[0];
    if (!target)
      return (this.left.push(`${label} leads nowhere: it only does something inside.`), null);
    const element = this.elements.get(target);
    const to = element && this.entry(element, true);
    if (!to) return (this.left.push(`${label} leads to a part without a state.`), null);
    const toId = this.idOf.get(to)!;
    const sources = from.filter((id) => id !== toId);
    const name = this.states.find((s) => s.id === toId)!.name;
    if (sources.length === 0) return (this.left.push(`${label} leads back to itself.`), null);
    if ((t.attributes.target ?? "").trim().includes(" "))
      this.left.push(`${label} enters several states at once: only ${name} is taken.`);
    const events = event.split(/\s+/);
    if (events.length > 1)
      this.left.push(
        `${label} answers to ${events.length} events: it is one move here, called by the first. The others were ${events
          .slice(1)
          .map((e) => `“${cutText(e, 60)}”`)
          .join(", ")}.`,
      );
    const words = events[0].replace(/[._*]+/g, " ").trim();
    const verb = cutText(
      words ? words.charAt(0).toUpperCase() + words.slice(1) : `Go to ${name}`,
      60,
    );
    const move: Transition = {
      ...PLAIN_TRANSITION,
      id: this.newId(),
      from: sources,
      to: toId,
      verb,
    };
    if (!event) this.left.push(`${label} would happen by itself: people make it here.`);
    const cond = t.attributes.cond?.trim();
    if (cond) this.takeCondition(move, cond, label);
    if (t.children.some((c) => c.name !== "#text"))
      this.left.push(`What ${label} would do on its way: write it as a follow-up.`);
    this.taken.push(
      `Move “${verb}” to ${name}${sources.length > 1 ? `, from ${sources.length} states` : ""}.`,
    );
    return move;
  }

  private takeCondition(move: Transition, cond: string, label: string): void {
    const { condition } =
      this.root.attributes.datamodel === "x-cel"
        ? parseCel(cond, this.vocabulary)
        : { condition: null };
    if (condition) move.requirements.push({ kind: "condition", condition });
    else
      this.left.push(
        `${label} has the condition “${cutText(cond, 120)}”, which only its own machine understands.`,
      );
  }

  private isWithin(e: XmlElement, ancestor: XmlElement): boolean {
    for (let at: XmlElement | undefined = e; at; at = this.parents.get(at))
      if (at === ancestor) return true;
    return false;
  }

  /**
   * The state in which a part begins: by what it says, else the first inside (SCXML, sections 3.2
   * to 3.6). A history stands for its default where it has one, else for where its part begins
   * (section 3.10): no item has been there before.
   * @returns undefined where there is none, or the beginnings lead in a circle
   */
  private entry(
    e: XmlElement,
    mayBeItself = false,
    passed: ReadonlySet<XmlElement> = new Set(),
  ): XmlElement | undefined {
    if (passed.has(e)) return undefined;
    const further = new Set(passed).add(e);
    if (local(e) === "history") {
      const given = this.elements.get(
        firstTarget(e.children.find((c) => local(c) === "transition")),
      );
      return this.entry(given ?? this.parents.get(e)!, true, further);
    }
    const inner = innerStates(e);
    if (inner.length === 0) return mayBeItself || passed.size > 0 ? e : undefined;
    const initial = e.children
      .find((c) => local(c) === "initial")
      ?.children.find((c) => local(c) === "transition");
    const wanted = e.attributes.initial?.trim().split(/\s+/)[0] || firstTarget(initial);
    return (
      this.entry(this.elements.get(wanted) ?? inner[0], true, further) ??
      this.entry(inner[0], true, further)
    );
  }
}

/** Where a transition leads first; nothing where it leads nowhere. */
const firstTarget = (transition: XmlElement | undefined): string =>
  (transition?.attributes.target ?? "").trim().split(/\s+/)[0];

/** States directly inside, histories left out. */
const innerStates = (e: XmlElement) => e.children.filter((c) => STATE_ELEMENTS.has(local(c)));

export { SCXML };
