import { ButtonLink } from "@/ui/kit/button";
import { QuietPage } from "./quiet-page";

/** A link that leads nowhere any more, with what to do instead. */
export function LinkEnded({ sentence, help }: { sentence: string; help: string }) {
  return (
    <QuietPage title={sentence} says={help}>
      <div>
        <ButtonLink href="/">To the first page</ButtonLink>
      </div>
    </QuietPage>
  );
}
