const MOST_LETTERS = 64;

/** Ids that are taken, and ones made from others that are not. */
export class FreshIds {
  private readonly taken: Set<string>;

  constructor(taken: Iterable<string>) {
    this.taken = new Set(taken);
  }

  /** An id made of another and a mark, which nothing has yet. */
  made(id: string, mark: string): string {
    for (let number = 1; ; number++) {
      const end = number === 1 ? `-${mark}` : `-${mark}-${number}`;
      const made = `${id.slice(0, MOST_LETTERS - end.length)}${end}`;
      if (this.taken.has(made)) continue;
      this.taken.add(made);
      return made;
    }
  }
}
