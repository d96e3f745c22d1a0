/** A name as it stands at the head of something: "story" is "Story". */
export const capital = (name: string): string => name.charAt(0).toUpperCase() + name.slice(1);
