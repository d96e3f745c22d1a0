import { isRefusalInWords, type FuzzedReader } from "./readers";
import { textsFrom } from "./texts";

/** Slower than this is a hang, whatever the machine is doing. */
const HANG_MS = 3_000;

export interface Fault {
  reader: string;
  what: string;
  text: string;
}

/** Lets a reader read so many texts. @returns the first of each kind of fault */
export async function fuzz(reader: FuzzedReader, times: number, seed: number): Promise<Fault[]> {
  const textFrom = textsFrom(seed);
  const faults = new Map<string, Fault>();
  for (let i = 0; i < times; i++) {
    const text = textFrom(reader.sample);
    const note = (what: string) =>
      void (faults.has(what) || faults.set(what, { reader: reader.name, what, text }));
    const began = performance.now();
    try {
      const complaint = await reader.read(text);
      if (complaint) note(complaint);
    } catch (error) {
      if (!isRefusalInWords(error))
        note(`${(error as Error).name}: ${(error as Error).message.slice(0, 120)}`);
    }
    if (performance.now() - began > HANG_MS) note("it hung");
  }
  return [...faults.values()];
}
