/** Where a letter is written or goes through a list: a screen's own keys rest there. */
const TAKES_LETTERS = [
  "input:not([type=checkbox], [type=radio])",
  "textarea",
  "select",
  "[contenteditable=true]",
  "[role=combobox]",
  "[role=listbox]",
  "[role=menu]",
  "[role=dialog]",
].join(",");

/** Whether a key that is pressed there belongs to a control or an open sheet, not to the screen. */
export const takesKeys = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest(TAKES_LETTERS) !== null;

/** Whether a text is written there, which has an undo of its own. */
export const isWriting = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("input,textarea,[contenteditable=true]") !== null;
