/** A picture of a person is a square with at most so many pixels a side. */
export const PICTURE_SIDE = 256;

/** The most bytes of such a picture. */
export const LARGEST_PICTURE = 200 * 1024;

/** Where people's pictures are, by their names; of people who are called the same, none is. */
export type PictureAddresses = Record<string, string>;
