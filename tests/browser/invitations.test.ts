import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let greta: Person;
let guest: Person;
beforeAll(async () => {
  [ines, greta, guest] = await Promise.all([
    browser.person(app.address(), "Ines Dahl"),
    browser.person(app.address(), "Greta Falk"),
    browser.person(app.address()),
  ]);
});

test("a lead makes a link, somebody comes in by it with an account of their own, and leaves again", async () => {
  await ines.open("/p/TIX/design?place=people");
  await ines.press("A link for several");
  await ines.fill("So many people can use it", "1");
  await ines.press("Make the link");
  await ines.reads("Hand this link to whoever is to come");
  const address = await ines.page.$eval(
    "input[aria-label=Link]",
    (e) => (e as HTMLInputElement).value,
  );
  await guest.open(new URL(address).pathname);
  await guest.reads("Ines Dahl invites you as a member");
  await guest.fill("Your name", "Marit Lund");
  await guest.fill("Mail address", "marit.lund@harbour.example");
  await guest.fill("Password", "a tide of its own");
  await guest.press("Make an account and come in");
  await guest.page.waitForFunction(() => location.pathname === "/p/TIX/flow");
  await ines.open("/p/TIX/design?place=people");
  await ines.reads("1 of 1", "[aria-label=Invitations]");
  await ines.page.waitForSelector('[data-person="Marit Lund"]');
  const other = await browser.person(app.address());
  await other.open(new URL(address).pathname);
  await other.reads("This invitation has ended.");

  await greta.open("/people");
  await greta.click('button[aria-label="Marit Lund leaves"]');
  await greta.reads("They have nothing open in hand.");
  await greta.press("End Marit Lund");
  await greta.reads("Marit Lund has left.");
  await greta.page.waitForSelector('button[aria-label="Bring Marit Lund back"]');
});

test("what a leaver had in hand goes to whom is named, and a forgotten password is asked for", async () => {
  await greta.open("/people");
  await greta.click('button[aria-label="Noor Bakri leaves"]');
  await greta.choose("Ticket app:", "Ivo Sandell", "[role=dialog]");
  await greta.press("End Noor Bakri");
  await greta.reads(/Noor Bakri has left\. \d+ items? handed on\./);
  await guest.open("/sign-in");
  await guest.reads("Sign in");
  await guest.page.waitForFunction(() => !document.body.innerText.includes("I have forgotten"));
});

test("what people are good for is written beside them; too much is refused and stays to be put right; the filter takes the word for all of them", async () => {
  const field = "What Ruth Abara is good for";
  await ines.open("/p/TIX/design?place=people");
  await ines.fill(field, "a, b, c, d, e, f, g, h, i");
  await ines.keys("Enter");
  await ines.reads("Somebody has at most 8 trades here.");
  const written = () =>
    ines.page.$eval(`input[aria-label="${field}"]`, (input) => (input as HTMLInputElement).value);
  expect(await written()).toBe("a, b, c, d, e, f, g, h, i");
  await ines.fill(field, "lanterns, ropes");
  await ines.keys("Enter");
  await ines.reads(`${field} is stored.`);
  await ines.reads("lanterns 1", '[aria-label="What people are good for"]');
  await ines.fill("What Ivo Sandell is good for", "lanterns");
  await ines.keys("Enter");
  await ines.reads("lanterns 2", '[aria-label="What people are good for"]');

  await ines.open("/p/TIX/flow");
  await ines.keys("/");
  await ines.page.keyboard.type("lanterns");
  await ines.reads(/lanterns: .*Ivo Sandell or Ruth Abara/, "[role=listbox]");
  await ines.keys("Enter");
  await ines.reads("Ivo Sandell or Ruth Abara", "main");
});
