import type { Person } from "./person";

/** Waits until a tester is at the step that says some words. */
export const atStep = ({ page }: Person, words: string) =>
  page.waitForFunction(
    (said: string) => document.querySelector(".run-step[data-active]")?.textContent?.includes(said),
    {},
    words,
  );
