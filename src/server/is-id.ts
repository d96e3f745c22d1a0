/** Whether a text has the form of an id: what has not is none, and is never handed to the database as one. */
export const isId = (text: string): boolean => /^[0-9a-f-]{36}$/.test(text);
