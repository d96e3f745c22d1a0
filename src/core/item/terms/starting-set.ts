import { PLAIN_TERM, type Term } from "./term";

const label = (name: string, sign: Term["sign"], hue: Term["hue"], meaning: string): Term => ({
  ...PLAIN_TERM,
  kind: "label",
  name,
  sign,
  hue,
  meaning,
});

/** The labels that a project can begin with: what its types and fields do not say already. */
export const STARTING_LABELS: readonly Term[] = [
  label("quick win", "arrow", "moss", "Less than half a day, and somebody will be glad of it."),
  label("needs a decision", "dot", "marigold", "Nobody can go on before somebody has decided."),
  label("security", "cross", "madder", "A hole, or what keeps one shut."),
  label("upkeep", "stripes", "slate", "Nothing new for anybody: it keeps what there is sound."),
  label("for learners", "quarters", "spruce", "Good to begin with for whoever is new here."),
  label("outside help", "half", "ink blue", "Somebody from outside has to do their share."),
];
