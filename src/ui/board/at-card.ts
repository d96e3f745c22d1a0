/** Finds the card of an item on the page. */
export const cardAt = (itemId: string): string => `[data-card="${itemId}"]`;
