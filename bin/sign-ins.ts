import { DEMO_PASSWORD, mailOf, PEOPLE } from "@demo/people";

const shown = ["ines", "tomas", "noor", "lukas", "greta", "arthur"];
console.log(`Sign in with one click on a person, or with password ${DEMO_PASSWORD}:`);
for (const p of PEOPLE.filter((p) => shown.includes(p.id))) console.log(`  ${mailOf(p).padEnd(36)} ${p.calling}`);
console.log(`  and ${PEOPLE.length - shown.length} more on the sign-in page`);
