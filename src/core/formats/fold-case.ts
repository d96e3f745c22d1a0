/**
 * A text with the letters A to Z small, and every other letter as it is: as the database folds with
 * its "C" collation.
 */
export const foldCase = (text: string): string =>
  text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
