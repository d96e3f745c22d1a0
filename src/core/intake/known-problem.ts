/** A problem that everybody may know of: an id and words for people outside, nothing else. */
export interface KnownProblem {
  id: string;
  words: string;
}
