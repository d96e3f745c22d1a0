import { seededRandom } from "@/core/forecast/random";

/** What texts from outside are made of, and what made some reader stumble before. */
const PIECES = [
  '"a<b@c>:\r\n',
  "a <x@",
  ">",
  "> quoted\n",
  "-- \n",
  "On a day somebody wrote:\n",
  "From: quay 4\n",
  "re: ",
  "<",
  "<a",
  "<!--",
  "-->",
  "<a>",
  "</a>",
  "<a b='",
  "&",
  "&amp;",
  "&#x",
  "<![CDATA[",
  "]]>",
  "<?a ",
  "<!DOCTYPE a [",
  "\r\n",
  "\n",
  "\r",
  " ",
  "\t",
  ",",
  ";",
  "sep=;\n",
  '"',
  '""',
  "'",
  "\\",
  "\\u",
  "(",
  ")",
  "[",
  "]",
  "{",
  "}",
  ":",
  "1e999",
  "-0",
  "99999999999999999999",
  "null",
  "true",
  "item.",
  "&&",
  "||",
  "==",
  "in ",
  "a",
  "é",
  "🚢",
  "\u0000",
  "\ud800",
  "\u202e",
  "\ufeff",
  "=?UTF-8?Q?=",
  "--b\r\n",
  "Content-Type: multipart/mixed; boundary=b\r\n\r\n",
  "constructor",
  "__proto__",
  "%00",
  "`",
  "*_",
  "|",
];

/**
 * Texts without end, the same for the same seed: samples that were broken, pieces in any number,
 * and noise.
 */
export function textsFrom(seed: number): (sample: string) => string {
  const source = seededRandom(seed);
  const random = () => source.next();
  const upTo = (n: number) => Math.floor(random() * n);
  const piece = () => PIECES[upTo(PIECES.length)];
  const many = () => piece().repeat(1 + upTo(random() < 0.05 ? 2_000 : 12));
  const noise = () =>
    String.fromCharCode(
      ...Array.from({ length: 1 + upTo(20) }, () => upTo(random() < 0.7 ? 128 : 0x10000)),
    );
  const broken = (text: string): string => {
    const at = upTo(text.length + 1);
    const end = Math.min(text.length, at + upTo(12));
    switch (upTo(5)) {
      case 0:
        return text.slice(0, at) + many() + text.slice(at);
      case 1:
        return text.slice(0, at) + text.slice(end);
      case 2:
        return text.slice(0, at) + text.slice(at, end).repeat(2 + upTo(6)) + text.slice(end);
      case 3:
        return text.slice(0, at) + noise() + text.slice(end);
      default:
        return text.slice(0, at);
    }
  };
  return (sample) => {
    if (random() < 0.2) return Array.from({ length: 1 + upTo(8) }, many).join("");
    let text = sample;
    for (let i = 0, times = 1 + upTo(6); i < times; i++) text = broken(text);
    return text;
  };
}
