import { LINK_KINDS, type LinkKind } from "./fields";

/** What a link says of the item at its other end. */
const INWARD: Readonly<Record<LinkKind, string>> = {
  duplicates: "is duplicated by",
  "relates to": "relates to",
  "came from": "led to",
  "waits for": "is waited for by",
  "found in": "is where somebody found",
  "tested by": "tests",
};

/** "duplicates TIX-9", and seen from the other side "is duplicated by TIX-9". */
export const linkWords = (link: { kind: LinkKind; otherKey: string; outward: boolean }): string =>
  `${link.outward ? link.kind : INWARD[link.kind]} ${link.otherKey}`.trim();

/** A kind of link as it is said of an item, from either of its ends. */
export interface LinkWay {
  linkKind: LinkKind;
  /** Whether it is the other item of which it is said. */
  turned: boolean;
  words: string;
}

/** All that can be said of how an item is linked to another one. */
export const LINK_WAYS: readonly LinkWay[] = LINK_KINDS.flatMap((linkKind) =>
  [false, true]
    .filter((turned) => !turned || INWARD[linkKind] !== linkKind)
    .map((turned) => ({
      linkKind,
      turned,
      words: linkWords({ kind: linkKind, otherKey: "", outward: !turned }),
    })),
);

/** The words of all ways, as they are stored where a rule names one. */
export const LINK_WAY_WORDS = LINK_WAYS.map(({ words }) => words);
