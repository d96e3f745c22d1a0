/** "1 item", "2 items", "1,200 items": a number of things. @param many where it is not one with an s */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString("en")} ${n === 1 ? one : many}`;
