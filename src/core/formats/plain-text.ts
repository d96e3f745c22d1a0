/**
 * A text from outside without control characters, as far as they say nothing: line feeds and tabs
 * stay, other line ends become line feeds.
 */
export const plainText = (text: string): string =>
  text.replaceAll("\r\n", "\n").replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, "");
