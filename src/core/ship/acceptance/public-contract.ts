import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import type { PublicShowing } from "./acceptance-view";
import { acceptanceBody } from "./shown-item";

const PAGE = "/api/public/acceptance/:token";

/** What somebody without an account may do with what is shown to them. */
export const publicAcceptanceContract = {
  page: contract({
    method: "GET",
    path: PAGE,
    answer: answered<PublicShowing>(),
    kept: "shown to me",
  }),
  say: contract({
    method: "POST",
    path: PAGE,
    body: acceptanceBody,
    answer: answered<PublicShowing>(),
  }),
  picture: contract({ method: "GET", path: `${PAGE}/pictures/:picture`, answer: z.never() }),
};
