import type { ProjectKey } from "../people";

export interface DemoReport {
  project: ProjectKey;
  title: string;
  happened: string;
  reproduce: string;
  place: string;
  from: string;
  /** Parts of the product that Tomas said it is about, when he read it. */
  parts?: string[];
  /** Hours before the demo was loaded. */
  hoursAgo: number;
}

/** Reports that nobody has judged yet. Three pairs tell of the same thing in other words. */
export const UNJUDGED_REPORTS: DemoReport[] = [
  {
    project: "TIX",
    hoursAgo: 170,
    from: "marta.wold",
    place: "Gannet quay",
    title: "My ticket was not accepted at Gannet quay although I had paid",
    happened:
      "I bought the ticket on the boat without a connection. At the gate on Gannet quay the scanner said the ticket was not valid. The crew let me through after I showed the receipt.",
    reproduce: "Buy a ticket while the phone is offline, then go straight to the gate.",
  },
  {
    project: "TIX",
    hoursAgo: 119,
    parts: ["The ticket itself"],
    from: "per.aske",
    place: "Gannet quay",
    title: "Scanner at Gannet refuses tickets bought without a network",
    happened:
      "Two passengers in front of me and I myself were refused at the gate. All of us had bought the ticket offline on the boat, all of us had a receipt.",
    reproduce:
      "Switch the phone to flight mode, buy a single ticket, hold it under the scanner at Gannet quay.",
  },
  {
    project: "TIX",
    hoursAgo: 101,
    parts: ["Payments and refunds"],
    from: "elin.brandt",
    place: "in the app, at home",
    title: "I was charged twice for one season ticket",
    happened:
      "My bank shows two payments of the same amount one minute apart. In the app there is only one season ticket.",
    reproduce: "I tapped Pay, the wheel turned for a long time, then I tapped again.",
  },
  {
    project: "TIX",
    hoursAgo: 96,
    parts: ["The ticket itself"],
    from: "jakob.moen",
    place: "Heron island",
    title: "Dark mode makes the code unreadable for the gate",
    happened:
      "With night mode on, the gate needs five or six attempts. With day mode it works at once.",
    reproduce: "Turn on night mode and open any ticket.",
  },
  {
    project: "TIX",
    hoursAgo: 77,
    from: "sofie.lunde",
    place: "phone, on the train",
    title: "Payment taken two times for the season card",
    happened:
      "The app hung while paying for my season ticket. I pressed the button again, and now the amount was taken from my account twice.",
    reproduce: "Pay on a slow connection and tap the button a second time.",
  },
  {
    project: "TIX",
    hoursAgo: 74,
    from: "anders.kvist",
    place: "Saltmarsh town pier",
    title: "The app says the boat is full but it was half empty",
    happened:
      "On Friday the 17:40 could not be booked, full. From the pier I saw at least thirty free seats, and the crew sold tickets on board.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 55,
    from: "wanda.rees",
    place: "at home",
    title: "Please let me book two bicycles on one ticket",
    happened:
      "We are a couple with two bicycles. Today we must buy two tickets on two phones, because one ticket takes only one bicycle.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 52,
    from: "oda.fjell",
    place: "the night boat",
    title: "Wrong day on the ticket for the boat at half past midnight",
    happened:
      "I booked the boat at 00:30 on Saturday night. The ticket says Friday and the crew sent me back to the window.",
    reproduce: "Search on Saturday evening for the boat after midnight and book it.",
  },
  {
    project: "TIX",
    hoursAgo: 46,
    from: "lars.ekvall",
    place: "Curlew landing",
    title: "Resident discount disappears when I change the number of passengers",
    happened:
      "With my resident card the price is right. As soon as I add my daughter the full price is shown for both of us.",
    reproduce: "Choose resident, then add a child on the second page.",
  },
  {
    project: "TIX",
    hoursAgo: 30,
    from: "irma.dorsch",
    place: "old phone",
    title: "App closes by itself when I open my ticket",
    happened:
      "Since the last update the app closes each time I tap on the ticket. My phone is about six years old. I had to buy a paper ticket.",
    reproduce: "Open the app, tap on My tickets, tap on the ticket.",
  },
  {
    project: "TIX",
    hoursAgo: 27,
    from: "colm.hardy",
    place: "in the app",
    title: "Can the receipt show the name of our school?",
    happened:
      "Our office does not accept the receipts of the class trips, because only my own name is on them.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 21,
    from: "tove.lindahl",
    place: "Sandpiper point",
    title: "Map sends people to the closed pier",
    happened:
      "During the storm the boat left from the north pier. The map in the app still showed the south pier, and a dozen people missed the boat.",
    reproduce: "Open the map of a sailing that was moved to another pier.",
  },
  {
    project: "TIX",
    hoursAgo: 9,
    from: "bo.sandvik",
    place: "in the app",
    title: "Message about the cancelled boat came after it should have left",
    happened:
      "The 07:15 was cancelled. The message reached me at 07:31, when I was standing on the quay.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 5,
    from: "kaia.holm",
    place: "tablet",
    title: "Cannot scroll to the pay button on my tablet",
    happened:
      "On the page with the passengers the button at the bottom is hidden behind the keyboard. I can neither scroll nor close the keyboard.",
    reproduce: "Hold the tablet sideways and type a name.",
  },
  {
    project: "TIX",
    hoursAgo: 2,
    from: "edda.wulff",
    place: "Oyster bank stop",
    title: "Ticket window does not know about my refund",
    happened:
      "The app says my refund is waiting at the window. The lady at the window cannot find it under my name or my reference.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 41,
    from: "nils.aaker",
    place: "in the app",
    title: "I can open tickets of other people",
    happened:
      "When I change the number at the end of the address of my ticket I see the ticket of somebody else, with their name.",
    reproduce: "Open a ticket in the browser and add one to the number.",
  },
  {
    project: "TIX",
    hoursAgo: 37,
    from: "vera.stam",
    place: "in the app, at home",
    title: "No mail with my ticket since Monday",
    happened:
      "I paid, the ticket is in the app, but the mail with the receipt did not come. Three colleagues tell the same.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 18,
    from: "jon.rask",
    place: "Gannet quay",
    title: "It does not work",
    happened: "It does not work any more. Please repair.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 14,
    from: "gerda.poll",
    place: "Heron island",
    title: "A seat for my dog",
    happened:
      "My dog is large. I would like to pay for a place for him so that nobody steps on him.",
    reproduce: "",
  },
  {
    project: "TIX",
    hoursAgo: 4,
    from: "abel.fry",
    place: "Saltmarsh town pier",
    title: "Ticket from offline purchase refused at the barrier",
    happened:
      "Bought without network on the island, the barrier on the quay beeped and stayed shut.",
    reproduce: "",
  },
  {
    project: "GATE",
    hoursAgo: 140,
    from: "quay.curlew",
    place: "Curlew landing",
    title: "Scanner glass is wet inside every morning",
    happened:
      "Before the first boat the glass of both scanners is fogged from inside. We wipe and nothing changes, after sunrise it goes away.",
    reproduce: "Come before sunrise when the night was clear.",
  },
  {
    project: "GATE",
    hoursAgo: 92,
    from: "crew.morning",
    place: "Curlew landing",
    title: "Fogged scanners hold up the early boat at Curlew",
    happened:
      "This morning we left eight minutes late, because both scanners were fogged up before sunrise and we checked the tickets by eye.",
    reproduce: "",
  },
  {
    project: "GATE",
    hoursAgo: 33,
    from: "quay.heron",
    place: "Heron island",
    title: "Gate 2 stays open after somebody with a pram went through",
    happened:
      "After a pram the left wing does not close. People behind it walk through without a scan until somebody presses reset.",
    reproduce: "Push the pram from the test room through gate 2 slowly.",
  },
  {
    project: "TIDE",
    hoursAgo: 64,
    from: "office.harbour",
    place: "Saltmarsh town pier",
    title: "Board announced a boat that was cancelled the evening before",
    happened:
      "The 06:10 was cancelled at 22:00. In the morning it was on the big board until 06:25.",
    reproduce: "Cancel a sailing of the next day after 21:30.",
  },
  {
    project: "TIDE",
    hoursAgo: 13,
    from: "bus.islands",
    place: "Heron island",
    title: "Our buses wait for a boat that comes later",
    happened:
      "In the feed that we get, the delay of the boat is missing since Tuesday. Three buses waited for nothing.",
    reproduce: "Compare the feed with the board when a boat is late.",
  },
];

/** Questions that wait for the requester, and reports put aside. */
export const ASIDE_REPORTS: (DemoReport & ({ question: string } | { parkedDays: number }))[] = [
  {
    project: "TIX",
    hoursAgo: 210,
    from: "henrik.strand",
    place: "in the app",
    title: "Price is wrong",
    happened: "The price was higher than last time.",
    reproduce: "",
    question:
      "Which trip was it, on which day, and for how many people? A picture of the summary would help us most.",
  },
  {
    project: "TIX",
    hoursAgo: 260,
    from: "liv.torp",
    place: "the upper car deck",
    title: "A way to find our car again",
    happened: "It would be good if the ticket said on which deck and in which row we parked.",
    reproduce: "",
    parkedDays: 21,
  },
  {
    project: "TIDE",
    hoursAgo: 150,
    from: "office.town",
    place: "Saltmarsh town pier",
    title: "Letters on the board are too small",
    happened: "Older passengers ask us what the board says.",
    reproduce: "",
    question: "Is it the large board in the hall or the small one at the pier?",
  },
];

export const DECLINE_REASONS = [
  "This is a rule of the harbour authority, which we cannot change in the app.",
  "The boat in question does not run any more since the winter timetable.",
  "We could not find anything wrong: the price on the ticket is the one on the price list of that day.",
  "The car park belongs to the town. Please write to the town hall about it.",
];

export const PROBLEM_WORDS = [
  "I noticed it twice this week.",
  "It cost me the boat.",
  "The crew was friendly but could not help.",
  "It used to work until about a month ago.",
  "My neighbour has the same.",
  "I only want you to know, it was not so bad.",
];
