import { MAIL_WAYS, type MailWay } from "@/core/alerts/ways";

const MAIL_WORDS: Record<MailWay, string> = {
  "at once": "at once",
  morning: "in the morning",
  weekly: "once a week",
  none: "no mail",
};

/** How mail can come, as it is chosen. */
export const MAIL_OPTIONS = MAIL_WAYS.map((value) => ({ value, label: MAIL_WORDS[value] }));
