import type { ShownPictureView } from "@/core/ship/acceptance/acceptance-view";
import { Picture } from "@/ui/kit/picture";

/** Pictures of what was done; each opens by itself. */
export function ShownPictures({
  pictures,
  addressFor,
}: {
  pictures: readonly ShownPictureView[];
  addressFor: (id: string) => string;
}) {
  if (pictures.length === 0) return null;
  return (
    <ul className="shown-pictures">
      {pictures.map(({ id, name }) => (
        <li key={id}>
          <a href={addressFor(id)} target="_blank" rel="noreferrer">
            <Picture src={addressFor(id)} alt={name} className="shown-picture" />
          </a>
        </li>
      ))}
    </ul>
  );
}
