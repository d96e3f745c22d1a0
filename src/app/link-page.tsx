import { Refused } from "@/server/refused";
import { LinkEnded } from "@/ui/people/link-ended";

/** A page that a link leads to; where the link has ended, that is said. */
export async function linkPage<T>(
  read: Promise<T>,
  draw: (view: T) => React.ReactNode,
): Promise<React.ReactNode> {
  try {
    return draw(await read);
  } catch (error) {
    if (error instanceof Refused && error.refusal.code === "not found")
      return <LinkEnded sentence={error.refusal.sentence} help={error.refusal.help} />;
    throw error;
  }
}
