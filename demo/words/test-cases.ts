import type { DemoProject } from "../projects";

/** A case of the crew's own, with the part of the product that it is about. */
export interface DemoCase {
  title: string;
  suite: string | null;
  part: string;
  before: string;
  /** What is done, and what is to be seen then. */
  steps: readonly (readonly [string, string])[];
}

export const DEMO_CASES: Record<DemoProject["key"], readonly DemoCase[]> = {
  TIX: [
    {
      title: "Ticket without a connection",
      suite: "Before every crossing",
      part: "The ticket itself",
      before: "A day pass is bought, the phone is charged under 20 %.",
      steps: [
        ["Buy a day pass at the machine on the quay", "The receipt shows a code and the date"],
        [
          "Switch the phone to flight mode and open the app",
          "The pass is there within two seconds, marked “no connection”",
        ],
        ["Hold it under the gate at Gannet quay", "The gate opens, the screen says “pass, 1 day”"],
        ["Do the same with the gate on battery", "The gate closes behind the passenger"],
        ["Try a pass that ended yesterday", "The gate stays closed and says why"],
        ["Take the phone back online", "The journey stands in “My trips”"],
      ],
    },
    {
      title: "Pay by card and get it back",
      suite: "Before every crossing",
      part: "Payments and refunds",
      before: "The test card 4 of the drawer, and a sailing that has seats.",
      steps: [
        ["Book two adults and pay by the test card", "One amount is taken, the receipt names it"],
        ["Cancel one of the two tickets", "The refund is half of what was paid"],
        ["Cancel the other one an hour later", "All is given back, the basket is empty"],
        ["Press “Pay” twice, fast", "The card is charged once"],
      ],
    },
    {
      title: "A family with a voucher",
      suite: "Fares",
      part: "Fares and vouchers",
      before: "Voucher GULL-20 is valid, a second one has run out.",
      steps: [
        ["Put two adults and three children into the basket", "The third child pays, two go free"],
        ["Enter the valid voucher", "The price falls by a fifth, the row says why"],
        ["Enter the one that has run out", "It is refused, and the valid one stays"],
        ["Take one adult out", "The price of the children is counted anew"],
      ],
    },
    {
      title: "Season ticket over the change of month",
      suite: "Fares",
      part: "Fares and vouchers",
      before: "A season ticket that ends today, the clock of the test phone at 23:50.",
      steps: [
        ["Open the ticket before midnight", "It is valid, “ends today” stands below the code"],
        ["Wait for midnight with the app open", "The code goes, the offer to go on appears"],
        ["Go on for a month", "The new ticket begins today, without a gap"],
      ],
    },
    {
      title: "Storm notice on a booked sailing",
      suite: "Before every crossing",
      part: "Sailings in the app",
      before: "The test sailing of 18:20 is booked by the test account.",
      steps: [
        [
          "Cancel the sailing as the quay account",
          "A message comes within a minute, in plain words",
        ],
        ["Open the ticket", "It names the next boat, and offers it"],
        ["Take the next boat", "The seat is kept, nothing is paid again"],
        ["Look at the departure board", "The sailing is struck through, with the reason"],
      ],
    },
    {
      title: "Find a boat by the tide",
      suite: null,
      part: "Sailings in the app",
      before: "Tomorrow’s timetable is published.",
      steps: [
        ["Search Gannet to Curlew for tomorrow", "Sailings stand in order, full ones are marked"],
        ["Ask for a wheelchair place", "Only sailings that have one are left"],
        ["Turn the phone on its side", "The same sailings, no text is cut off"],
      ],
    },
    {
      title: "Sign in with a new phone",
      suite: "Accounts",
      part: "Accounts and messages",
      before: "The test account with two tickets, and a phone that never saw it.",
      steps: [
        ["Sign in", "A code comes by mail, no password is asked for"],
        ["Enter the code", "Both tickets are there"],
        ["Open the old phone", "It says that it was signed out, and loses nothing"],
      ],
    },
    {
      title: "Read aloud from booking to gate",
      suite: "Accounts",
      part: "Accounts and messages",
      before: "The screen reader is on, the screen is covered.",
      steps: [
        ["Book a sailing with the reader alone", "Every field says its name, the price is read"],
        ["Open the ticket", "The reader says the boat, the time and “code on screen”"],
        ["Make a mistake in the date", "The reader goes to it and says what is wrong"],
      ],
    },
  ],
  GATE: [
    {
      title: "Scanner in fog and sun",
      suite: "On the quay",
      part: "Scanners",
      before: "A gate with heating, the spray bottle, the lamp.",
      steps: [
        ["Spray the glass and hold a code under it", "It reads within two seconds, it beeps once"],
        ["Shine the lamp at the glass", "It reads, or says that it cannot"],
        ["Hold a torn code under it", "It refuses with the light and the low beep"],
      ],
    },
    {
      title: "Gate on its battery",
      suite: "On the quay",
      part: "Gate wings and lights",
      before: "The gate is charged, the main switch is in reach.",
      steps: [
        ["Switch the power off", "The gate stays as it is, the light turns amber"],
        ["Let thirty people through", "All thirty are counted"],
        ["Switch the power on again", "The count is sent, the light turns green"],
      ],
    },
  ],
  TIDE: [
    {
      title: "A delay reaches every board",
      suite: null,
      part: "Diversions and delays",
      before: "Last Tuesday’s feed on the test server.",
      steps: [
        ["Replay it until 06:10", "The sailing moves by twelve minutes, nothing else changes"],
        ["Look at the board of Curlew", "The new time stands there, with “about”"],
        ["Take the delay back", "The old time stands there again"],
      ],
    },
  ],
};

/** What a tester saw where something was not as expected. */
export const BLOCKED_NOTE = "The test route has no sailing today: I could not try this.";

/** Tests that the crew’s machines run, by repository. */
export const MACHINE_TESTS: Record<DemoProject["key"], readonly string[]> = {
  TIX: [
    "an adult pays by zones",
    "a child pays half, a resident seven tenths, a wheelchair user nothing",
    "there and back is cheaper than twice",
    "a bicycle has one price",
    "two children go free with an adult, the third pays",
    "what there is not is refused",
    "A family with a voucher",
    "TIX-T4 a season ticket ends at midnight",
    "prints the boat’s name",
  ],
  GATE: ["reads a code", "refuses a torn code", "GATE-T2 counts on its battery"],
  TIDE: ["moves a sailing", "TIDE-T1 moves nothing else"],
};

/** The one that changes its mind. */
export const UNSTEADY = "prints the boat’s name";
