import { browserKeeper, plansWaiting } from "./browserKeeper.ts";
import { NOTHING_KEPT, type Kept } from "./outbox.ts";

/** Locks of a browser, as far as they are used: held by name, asked for at once or for a while. */
class Locks {
  private readonly held = new Map<string, Promise<unknown>>();

  async request(name: string, ...rest: unknown[]): Promise<unknown> {
    const work = rest.at(-1) as (lock: object | null) => unknown;
    const { ifAvailable = false, signal } = (rest.length > 1 ? rest[0] : {}) as {
      ifAvailable?: boolean;
      signal?: AbortSignal;
    };
    if (ifAvailable && this.held.has(name)) return work(null);
    while (this.held.has(name)) {
      const given = new Promise<"up">((resolve) => signal?.addEventListener("abort", () => resolve("up")));
      if ((await Promise.race([this.held.get(name)!.then(() => "free"), given])) === "up")
        throw new DOMException("", "TimeoutError");
    }
    const holding = Promise.resolve(work({}));
    const until = holding.finally(() => this.held.delete(name));
    this.held.set(name, until);
    return until;
  }
}

/** What a browser keeps of a site, each thing a property of it. */
class Store {
  [key: string]: unknown;
  getItem(key: string): unknown {
    return Object.hasOwn(this, key) ? this[key] : null;
  }
  setItem(key: string, value: string): void {
    this[key] = value;
  }
  removeItem(key: string): void {
    delete this[key];
  }
}

/** Another window of the same browser. */
const anotherWindow = (): void => void Object.assign(globalThis, { sessionStorage: new Store() });

const waiting = (list: string): Kept => ({ ...NOTHING_KEPT, waiting: [{ list, changes: [], undoes: null }] });
const listsOf = ({ waiting: lists }: Kept): string[] => lists.map(({ list }) => list);

beforeEach(() => {
  Object.assign(globalThis, { localStorage: new Store() });
  anotherWindow();
  Object.defineProperty(globalThis, "navigator", { value: { locks: new Locks() }, configurable: true });
  AbortSignal.timeout = (milliseconds) => {
    const abort = new AbortController();
    setTimeout(() => abort.abort(), milliseconds / 100);
    return abort.signal;
  };
});

it("what a window kept is taken over when it is loaded again, though its page lets go only a moment later", async () => {
  const left = await browserKeeper("ann", "plan");
  left.keeper.write(waiting("a"));
  setTimeout(left.release, 10);
  const { keeper } = await browserKeeper("ann", "plan");
  expect(listsOf(keeper.read())).toEqual(["a"]);
  expect(plansWaiting("ann")).toEqual(["plan"]);
  expect(Object.keys(localStorage)).toHaveLength(1);
});

it("what another window works on is left to it, at once", async () => {
  const other = await browserKeeper("ann", "plan");
  other.keeper.write(waiting("a"));
  anotherWindow();
  const { keeper } = await browserKeeper("ann", "plan");
  expect(listsOf(keeper.read())).toEqual([]);
  expect(listsOf(other.keeper.read())).toEqual(["a"]);
});

it("a window that was doubled waits for a while, and leaves the work to the first", async () => {
  const first = await browserKeeper("ann", "plan");
  first.keeper.write(waiting("a"));
  const doubled = await browserKeeper("ann", "plan");
  expect(listsOf(doubled.keeper.read())).toEqual([]);
  first.release();
});

it("what a page left that was closed is taken over by the next that opens the plan, and by no other account", async () => {
  const gone = await browserKeeper("ann", "plan");
  gone.keeper.write(waiting("a"));
  gone.release();
  await new Promise((resolve) => setTimeout(resolve, 1));
  anotherWindow();
  expect(listsOf((await browserKeeper("bo", "plan")).keeper.read())).toEqual([]);
  expect(listsOf((await browserKeeper("ann", "plan")).keeper.read())).toEqual(["a"]);
});
