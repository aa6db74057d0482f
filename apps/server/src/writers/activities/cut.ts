/** At most so many of a text's signs as its column holds. */
export const cut = (text: string, length: number): string => (text.length > length ? text.slice(0, length) : text);
