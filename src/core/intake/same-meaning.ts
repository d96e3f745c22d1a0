import { stem } from "./stem";

/*
 * Plain English words that people use for one another when they tell of faults. A general list made
 * by thinking of how passengers and crews speak; from memory, no source. What is said in one
 * project for one thing is learnt from its merged reports (word-relations.ts), and what is near in
 * meaning without being the same from a model (meaning.ts).
 */
export const SAME_MEANING = [
  "refuse reject deny decline invalid accept valid",
  "charge paid pay payment money bill invoice",
  "twice double two repeat second",
  "crash close quit freeze frozen hang hung",
  "full sold",
  "boat ferry sail ship vessel",
  "bike bicycle cycle",
  "price cost fare fee amount",
  "discount reduce reduction voucher",
  "scan scanner read reader",
  "fog foggy wet mist misty",
  "empty blank miss disappear gone lost",
  "display board screen",
  "slow long",
  "push notice notify notification message",
  "mail email newsletter",
  "timetable schedule",
  "pier quay jetty",
  "phone mobile handheld portable",
  "season yearly",
  "dark night",
  "child children kid daughter son pupil",
  "elderly old",
  "loud loudspeaker noise noisy",
  "beep sound ring tone",
  "small tiny",
  "picture photo image",
  "network connect offline signal internet",
  "restart reset reboot",
  "send sent submit",
  "crew staff",
  "wheelchair disabled",
  "hot heat burn",
  "wrong incorrect false mix swap",
  "expire outdated",
  "update version",
  "refund return",
  "storm weather",
  "disturb interfere",
  "jump leap",
  "delete remove",
  "find search",
];

const REPRESENTATIVE = new Map(
  SAME_MEANING.flatMap((group) => {
    const stems = group.split(" ").map(stem);
    return stems.map((s): [string, string] => [s, stems[0]]);
  }),
);

/** One stem for all that mean the same. */
export const canonical = (ofWord: string): string => REPRESENTATIVE.get(ofWord) ?? ofWord;
