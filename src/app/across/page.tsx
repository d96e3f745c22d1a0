import { redirect } from "next/navigation";

/** Above the projects somebody begins with what is theirs. */
export default function Across() {
  redirect("/across/mine");
}
