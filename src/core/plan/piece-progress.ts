/** How far the stories under something are, whatever else stands between. */
export interface PieceProgress {
  items: number;
  done: number;
  doing: number;
  points: number;
  donePoints: number;
  /** Not finished and without a size. */
  unsized: number;
}

export const NOTHING_UNDER: PieceProgress = {
  items: 0,
  done: 0,
  doing: 0,
  points: 0,
  donePoints: 0,
  unsized: 0,
};
