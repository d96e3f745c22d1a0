import { migrateDatabase } from "@/db/migrate";
import { BARE, createTestDatabase } from "../server/setup/test-database";
import { startApplication, type Application } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();

let app: Application;
let drop: () => Promise<void>;
let lead: Person;

beforeAll(async () => {
  const made = await createTestDatabase(BARE);
  drop = made.drop;
  await migrateDatabase(made.url);
  app = await startApplication(made.url, {});
});
afterAll(async () => {
  await app.stop();
  await drop();
});

test("in an empty product the first person makes an account, looks after the product, and starts a project", async () => {
  lead = await browser.person(app.address);
  await lead.open("/");
  await lead.reads("Make the first account");
  await lead.fill("Your name", "Una Marsh");
  await lead.fill("Mail address", "una@saltmarsh.example");
  await lead.fill("Password", "low-water-mark");
  await lead.press("Make an account");
  await lead.reads("Welcome, Una.");
  await lead.fill("Name", "Pier repairs");
  await lead.press("Start the project");
  await lead.reads("Process of Pier repairs");
});

test("afterwards sign-up is closed, by page and by address", async () => {
  const stranger = await browser.person(app.address);
  await stranger.open("/sign-in");
  await stranger.reads("Sign in");
  expect(await stranger.page.$("::-p-xpath(//button[contains(., 'Make an account')])")).toBeNull();
  const answer = await fetch(`${app.address}/api/auth/sign-up/email`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({
      name: "Stranger",
      email: "stranger@saltmarsh.example",
      password: "low-water-mark",
    }),
  });
  expect([answer.status, ((await answer.json()) as { title: string }).title]).toEqual([
    403,
    "Accounts are made by administrators here.",
  ]);
});

test("finds the backlog open on the empty board, and makes the first item", async () => {
  await lead.open("/p/PR/flow");
  await lead.reads("Nothing waits here.");
  await lead.press("New item");
  await lead.fill("What is to be done?", "Replace the third plank");
  await lead.press("Add to the backlog");
  await lead.reads("PR-1");
});

test("the administrator makes an account and hands over its link; it sets a password once, and the project is open to them when they are added", async () => {
  await lead.open("/people");
  await lead.fill("Name", "Una Marsh");
  await lead.fill("Mail address", "pim@saltmarsh.example");
  await lead.press("Make it, and a link");
  await lead.reads("Somebody here is called Una Marsh already.");
  await lead.fill("Name", "Pim Quayle");
  await lead.press("Make it, and a link");
  await lead.reads("Hand this link to Pim Quayle");
  const link = await lead.page.$eval(
    "input[aria-label='Link']",
    (e) => (e as HTMLInputElement).value,
  );
  await lead.reads("has a link, 7 days left", "[data-account='pim@saltmarsh.example']");

  const second = await browser.person(app.address);
  await second.open(new URL(link).pathname);
  await second.reads("Welcome, Pim");
  await second.fill("Password", "high-water-mark");
  await second.press("Set it and sign in");
  // Whoever comes in begins with their day; there is none yet.
  await second.reads("Nothing waits for you");
  await second.open("/p/PR/flow");
  await second.reads("Replace the third plank");
  expect(await second.page.$("::-p-xpath(//button[contains(., 'New item')])")).toBeNull();
  await lead.open("/p/PR/design?place=people");
  await lead.click('button[aria-label^="People to add"]');
  await lead.click('::-p-xpath(//label[contains(., "Pim Quayle")])');
  await lead.keys("Escape");
  await lead.press("Add");
  await lead.reads("Pim Quayle", "table[aria-label='People of this project']");
  await second.open("/p/PR/flow");
  await second.page.waitForSelector("::-p-xpath(//button[contains(., 'New item')])");

  const late = await browser.person(app.address);
  await late.open(new URL(link).pathname);
  await late.reads("This link has ended.");

  // A new password ends the other sessions, and the old one opens nothing any more.
  const elsewhere = await browser.person(app.address);
  await elsewhere.open("/sign-in");
  await elsewhere.fill("Mail address", "pim@saltmarsh.example");
  await elsewhere.fill("Password", "high-water-mark");
  await elsewhere.press("Sign in");
  await elsewhere.reads("Replace the third plank");
  await second.open("/account");
  await second.fill("Present password", "not-this-one");
  await second.fill("New password", "spring-tide-now");
  await second.press("Change the password");
  await second.reads("That is not your present password.");
  await second.fill("Present password", "high-water-mark");
  await second.fill("New password", "spring-tide-now");
  await second.press("Change the password");
  await second.reads("Wherever else you were signed in, you are not any more.");
  // Whoever has to sign in first comes to where they wanted to go.
  await elsewhere.open("/p/PR/learn?period=4%20weeks");
  await elsewhere.reads("Sign in");
  await elsewhere.fill("Mail address", "pim@saltmarsh.example");
  await elsewhere.fill("Password", "spring-tide-now");
  await elsewhere.press("Sign in");
  await elsewhere.page.waitForFunction(
    () => location.pathname === "/p/PR/learn" && location.search === "?period=4+weeks",
  );
  await second.open("/people");
  await second.reads("Nothing here that you can see");
});

test("the paper is the system's until somebody chooses, and then theirs", async () => {
  const reader = await browser.person(app.address);
  const brightness = () =>
    reader.page.evaluate(() => {
      const canvas = document.createElement("canvas").getContext("2d")!;
      canvas.fillStyle = getComputedStyle(document.documentElement).backgroundColor;
      canvas.fillRect(0, 0, 1, 1);
      return canvas.getImageData(0, 0, 1, 1).data[0];
    });
  const system = (value: "light" | "dark") =>
    reader.page.emulateMediaFeatures([{ name: "prefers-color-scheme", value }]);
  await system("light");
  await reader.open("/sign-in");
  expect(await brightness()).toBeGreaterThan(200);
  await system("dark");
  expect(await brightness()).toBeLessThan(80);
  await reader.fill("Mail address", "pim@saltmarsh.example");
  await reader.fill("Password", "spring-tide-now");
  await reader.press("Sign in");
  await reader.page.waitForFunction(() => location.pathname.startsWith("/p/"));
  const choose = async (words: string) => {
    await reader.openMenu('::-p-xpath(//button[contains(., "theme and sign-out")])');
    await reader.click(`::-p-xpath(//*[@role="menuitemradio"][contains(., "${words}")])`);
    await reader.page.keyboard.press("Escape");
  };
  await choose("Light paper");
  expect(await brightness()).toBeGreaterThan(200);
  // It lasts, and goes back to the system's when that is chosen again.
  await reader.open("/p/PR/flow");
  expect(await brightness()).toBeGreaterThan(200);
  await choose("As my system has it");
  expect(await brightness()).toBeLessThan(80);
});
