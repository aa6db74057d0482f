/** An id that no row has, in this project or another: rows of one id are taken to be the same thing everywhere. */
export const newId = (letter: string): string => `${letter}-${crypto.randomUUID().slice(0, 13)}`;
