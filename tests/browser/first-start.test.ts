import { migrateDatabase } from "@/db/migrate";
import { BARE, createTestDatabase } from "../server/setup/test-database";
import { startApplication, type Application } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

jest.setTimeout(60_000);
const browser = givenBrowser();

let app: Application;
let drop: () => Promise<void>;
let lead: Person;

beforeAll(async () => {
  const made = await createTestDatabase(BARE);
  drop = made.drop;
  await migrateDatabase(made.url);
  app = await startApplication(made.url, { ZIGZAG_DEMO: "0", ZIGZAG_SIGN_UP: "open" });
}, 60_000);
afterAll(async () => {
  await app.stop();
  await drop();
});

async function signUp(name: string, mail: string): Promise<Person> {
  const person = await browser.person(app.address);
  await person.open("/");
  await person.press("I am new here");
  await person.fill("Your name", name);
  await person.fill("Mail address", mail);
  await person.fill("Password", "low-water-mark");
  await person.press("Make an account");
  return person;
}

test("in an empty product the first person makes an account and starts a project", async () => {
  lead = await signUp("Una Marsh", "una@saltmarsh.example");
  await lead.reads("Welcome, Una.");
  await lead.fill("Name", "Pier repairs");
  await lead.press("Start the project");
  await lead.reads("Process of Pier repairs");
});

test("finds the backlog open on the empty board, and makes the first item", async () => {
  await lead.open("/p/PR/flow");
  await lead.reads("Nothing waits here.");
  await lead.press("New item");
  await lead.fill("What is to be done?", "Replace the third plank");
  await lead.press("Add to the backlog");
  await lead.reads("PR-1");
});

test("a second person makes an account, sees the open project, and works in it once the lead has added them", async () => {
  const second = await signUp("Pim Quayle", "pim@saltmarsh.example");
  await second.reads("Replace the third plank");
  expect(await second.page.$("::-p-xpath(//button[contains(., 'New item')])")).toBeNull();
  await lead.open("/p/PR/design?place=people");
  await lead.choose("Person to add", "Pim Quayle");
  await lead.press("Add as member");
  await lead.reads("Pim Quayle", "table[aria-label='People of this project']");
  await second.open("/p/PR/flow");
  await second.page.waitForSelector("::-p-xpath(//button[contains(., 'New item')])");
});
