/** Each thing once, by its id: the first that has it, in the order in which they came. */
export const onceEach = <T extends { id: string }>(things: readonly T[]): T[] => {
  const known = new Set<string>();
  return things.filter(({ id }) => !known.has(id) && known.add(id));
};
