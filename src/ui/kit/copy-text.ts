import { tellDone, tellProblem } from "./notice";
import { Problem } from "./request";

/** Puts a text on the clipboard and says so, or why it cannot. */
export async function copyText(text: string, done: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    tellDone(done);
  } catch {
    tellProblem(
      new Problem({
        status: 0,
        sentence: "The browser did not let this page copy.",
        help: "Click into the page and try again, or allow it to use the clipboard.",
        code: "clipboard",
      }),
    );
  }
}
