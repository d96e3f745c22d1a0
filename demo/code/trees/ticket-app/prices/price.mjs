/** Prices of a single crossing in cents, by how many zones of the estuary it goes through. */
const BY_ZONES = [0, 340, 520, 690, 840];

/** What is taken off, in parts of a hundred. */
const OFF = { adult: 0, child: 50, resident: 30, "wheelchair user": 100 };

/**
 * What a ticket costs, in cents.
 * @param {{ zones: number, traveller: keyof typeof OFF, back?: boolean, bicycles?: number }} trip
 */
export function price({ zones, traveller, back = false, bicycles = 0 }) {
  if (!Number.isInteger(zones) || zones < 1 || zones >= BY_ZONES.length)
    throw new RangeError(`There are ${BY_ZONES.length - 1} zones.`);
  if (!(traveller in OFF)) throw new RangeError(`Nobody travels as ${traveller}.`);
  const single = Math.round((BY_ZONES[zones] * (100 - OFF[traveller])) / 100);
  const both = back ? Math.round(single * 1.8) : single;
  return both + bicycles * 150;
}

/**
 * What a family pays: the dearest two pay, every child with them goes free.
 * @param {{ zones: number, adults: number, children: number }} family
 */
export function familyPrice({ zones, adults, children }) {
  const paying = Math.min(adults, 2) + Math.max(0, adults - 2);
  const free = Math.min(children, paying * 2);
  return (
    paying * price({ zones, traveller: "adult" }) +
    (children - free) * price({ zones, traveller: "child" })
  );
}
