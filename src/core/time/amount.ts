/*
 * Amounts of time as people write them. A day is the working day of whoever writes, so what it came
 * to is always said back to them.
 */

const MINUTES: Readonly<Record<string, number>> = {
  m: 1,
  min: 1,
  mins: 1,
  minute: 1,
  minutes: 1,
  h: 60,
  hr: 60,
  hrs: 60,
  hour: 60,
  hours: 60,
};
const DAYS: ReadonlySet<string> = new Set(["d", "day", "days"]);

/** A number with its unit. */
const PART = /(\d{1,6}(?:[.,]\d{1,4})?)\s?([a-z]{1,10})/g;

/** So long a text is read. */
const LONGEST = 60;

export type AmountRead = { minutes: number } | { problem: string };

/**
 * Reads an amount: "90 min", "1.5 h", "1,5 h", "1 h 30 min", "1:30", "2 days".
 * @param hoursADay of the working day of whoever writes
 * @returns whole minutes, or what is wrong with the text
 */
export function readAmount(text: string, hoursADay: number): AmountRead {
  const typed = text.trim().toLowerCase();
  if (typed === "") return { problem: "Say how long, as 90 min, 1.5 h or 2 days." };
  if (typed.length > LONGEST) return { problem: "That is too long to be an amount of time." };
  const clock = /^(\d{1,3}):([0-5]\d)$/.exec(typed);
  if (clock) return whole(Number(clock[1]) * 60 + Number(clock[2]));
  if (/^\d+(?:[.,]\d+)?$/.test(typed))
    return { problem: `${typed} of what? Write ${typed} min, ${typed} h or ${typed} days.` };
  const parts = [...typed.matchAll(PART)];
  const rest = typed.replaceAll(PART, "").replaceAll(/[\s,]|and/g, "");
  if (parts.length === 0 || rest !== "")
    return { problem: "This is no amount of time. Write 90 min, 1.5 h or 2 days." };
  let minutes = 0;
  for (const [, number, unit] of parts) {
    const each = DAYS.has(unit) ? hoursADay * 60 : MINUTES[unit];
    if (each === undefined)
      return { problem: `“${unit}” is no unit that is known here. Write min, h or days.` };
    minutes += Number(number.replace(",", ".")) * each;
  }
  return whole(minutes);
}

function whole(minutes: number): AmountRead {
  const rounded = Math.round(minutes);
  return rounded < 1 ? { problem: "That is less than a minute." } : { minutes: rounded };
}

/** Whether an amount is written in days, so that it has to be said how long those are. */
export const isInDays = (text: string): boolean => /\d\s*(?:d|days?)\b/.test(text.toLowerCase());

/** An amount as it is read: "45 min", "1 h 30 min", "16 h". */
export function amountWords(minutes: number): string {
  const [h, min] = [Math.floor(minutes / 60), Math.round(minutes % 60)];
  if (h === 0) return `${min} min`;
  return min === 0 ? `${h.toLocaleString("en")} h` : `${h.toLocaleString("en")} h ${min} min`;
}
