/**
 * Goes to a page as somebody who has just signed in. The page is asked for anew: what is on the
 * screen stays until it is there, and nothing is left of who was signed in before.
 */
export const comeIn = (to: string): void => window.location.replace(to);
