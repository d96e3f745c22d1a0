import { TextButton } from "@/ui/kit/button";

/** What was taken out and can be brought back. */
export function TakenOut({
  words,
  things,
  mayEdit,
  onBringBack,
}: {
  /** What stands before the names, e.g. "Taken out:". */
  words: string;
  things: readonly { id: string; name: string }[];
  mayEdit: boolean;
  onBringBack: (id: string, name: string) => void;
}) {
  if (things.length === 0) return null;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-2 text-[13px] text-ink-soft">
      {words}
      {things.map(({ id, name }) => (
        <span key={id} className="inline-flex items-center gap-1">
          {name}
          {mayEdit && <TextButton onClick={() => onBringBack(id, name)}>bring back</TextButton>}
        </span>
      ))}
    </p>
  );
}
