/** The name of somebody or something by its id, also where it is gone. */
export const named = (things: readonly { id: string; name: string }[], id: string): string =>
  things.find((t) => t.id === id)?.name ?? "somebody gone";
