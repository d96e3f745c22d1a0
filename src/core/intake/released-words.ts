/**
 * What somebody who reported something reads once it is out.
 * @example "It is out: what you reported is part of Crossing 20."
 */
export const releasedWords = (release: string): string =>
  `It is out: what you reported is part of ${release}.`;
