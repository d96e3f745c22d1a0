import { READERS } from "./fuzz-data/readers";
import { fuzz } from "./fuzz-data/run";

/*
 * Every reader of text from outside reads many broken texts: none may crash, hang or keep silent.
 */

async function main(): Promise<void> {
  const [times = "200000", given] = process.argv.slice(2);
  const seed = given ? Number(given) : Math.floor(Math.random() * 1e9);
  const each = Math.ceil(Number(times) / READERS.length);
  let found = 0;
  console.log(`seed ${seed}, ${each} texts each`);
  for (const reader of READERS) {
    const began = Date.now();
    const faults = await fuzz(reader, each, seed);
    found += faults.length;
    console.log(
      `${reader.name}: ${faults.length === 0 ? "nothing" : `${faults.length} faults`} (${((Date.now() - began) / 1000).toFixed(1)} s)`,
    );
    for (const { what, text } of faults)
      console.log(`  ${what}\n    ${JSON.stringify(text.slice(0, 300))}`);
  }
  process.exit(found === 0 ? 0 : 1);
}

void main();
