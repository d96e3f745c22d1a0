/*
 * Plain English words that people use for one another when they tell of faults. A general list made by thinking of how
 * passengers and crews speak; from memory, no source. Words are stems, as `stem` makes them.
 */
const GROUPS = [
  "refus reject deny declin invalid accept valid",
  "charg paid pay payment money bill invoic",
  "twice double two repeat second again",
  "crash close quit freez hang hung",
  "full sold",
  "boat ferry sail ship vessel",
  "cancel call",
  "bik bicycl cycl",
  "pric cost fare fee amount",
  "discount reduc voucher",
  "scan scann read",
  "fog wet mist",
  "empty blank miss disappear gone lost",
  "display board screen",
  "slow long",
  "push notic notify notification messag",
  "mail email newslett",
  "timetabl schedul",
  "pier quay jetty",
  "phon mobil handheld portabl",
  "season yearly",
  "dark night",
  "child kid daughter son pupil",
  "elderly old",
  "loud loudspeak nois",
  "beep sound ring tone",
  "small tiny",
  "picture photo imag",
  "network connect connection offline signal internet",
  "restart reset reboot",
  "send submit",
  "crew staff",
  "wheelchair disabl",
  "hot heat burn",
  "wrong incorrect false mix swap",
  "expir outdat late",
  "update version",
  "refund return",
  "storm weath",
  "disturb interfere",
  "jump leap",
  "delete remov cancel",
  "find search",
];

const REPRESENTATIVE = new Map(GROUPS.flatMap((group) => group.split(" ").map((word, _i, [first]) => [word, first] as [string, string])));

/** One stem for all that mean the same. */
export const canonical = (stem: string): string => REPRESENTATIVE.get(stem) ?? stem;
