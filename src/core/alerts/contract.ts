import { answered, contract, DONE } from "@/core/contract/contract";
import type { NoticeView } from "./notice";
import { readBody } from "./request";

export const alertsContract = {
  /** What somebody was told, the latest first. */
  read: contract({
    method: "GET",
    path: "/api/notices",
    answer: answered<NoticeView[]>(),
    kept: "notices",
  }),
  /** Marks notices as read; only one's own. */
  mark: contract({ method: "POST", path: "/api/notices", body: readBody, answer: DONE }),
};
