import { NewsHub, type Stream } from "./newsHub.ts";

/** A stream that is opened, told and broken by hand. */
class FakeStream implements Stream {
  readyState = 0;
  onopen: Stream["onopen"] = null;
  onmessage: Stream["onmessage"] = null;
  onerror: Stream["onerror"] = null;
  ended = false;
  constructor(readonly address: string) {}
  close(): void {
    this.ended = true;
  }
  begin(): void {
    this.onopen!.call(this as never, new Event("open"));
  }
  say(project: string, revision: number): void {
    this.onmessage!.call(this as never, { data: JSON.stringify({ project, revision, present: [] }) } as MessageEvent);
  }
  fail(readyState: number): void {
    this.readyState = readyState;
    this.onerror!.call(this as never, new Event("error"));
  }
  get pages(): string[] {
    return new URL(this.address, "http://here").searchParams.getAll("on");
  }
}

let streams: FakeStream[];
let hub: NewsHub;
const open = () => streams.filter(({ ended }) => !ended);
const join = (project: string, client: string) => {
  const heard: number[] = [];
  return { heard, leave: hub.join({ project, client, tell: ({ revision }) => heard.push(revision) }) };
};

beforeEach(() => {
  jest.useFakeTimers();
  streams = [];
  hub = new NewsHub((address) => {
    const stream = new FakeStream(address);
    streams.push(stream);
    return stream;
  });
});
afterEach(() => jest.useRealTimers());

describe("the one stream of a browser", () => {
  it("is opened once for all pages that come together, and tells each of its own plan", () => {
    const pages = Array.from({ length: 8 }, (_, i) => join(i % 2 === 0 ? "p" : "q", `page-${i}`));
    jest.advanceTimersByTime(100);
    expect(streams).toHaveLength(1);
    expect(streams[0]!.pages).toEqual([
      "p.page-0",
      "q.page-1",
      "p.page-2",
      "q.page-3",
      "p.page-4",
      "q.page-5",
      "p.page-6",
      "q.page-7",
    ]);
    streams[0]!.begin();
    streams[0]!.say("q", 5);
    expect(pages.map(({ heard }) => heard)).toEqual([[], [5], [], [5], [], [5], [], [5]]);
  });

  it("is opened anew when a page comes or goes, and goes on telling until the new one has begun", () => {
    const first = join("p", "a");
    jest.advanceTimersByTime(100);
    streams[0]!.begin();
    const second = join("q", "b");
    jest.advanceTimersByTime(100);
    streams[0]!.say("p", 2);
    expect([first.heard, open().length]).toEqual([[2], 2]);
    streams[1]!.begin();
    expect(open()).toEqual([streams[1]]);
    first.leave();
    first.leave();
    jest.advanceTimersByTime(100);
    streams[2]!.begin();
    expect([open()[0]!.pages, streams.length]).toEqual([["q.b"], 3]);
    second.leave();
    jest.advanceTimersByTime(100);
    expect([open(), streams.length]).toEqual([[], 3]);
  });

  it("that has given up is opened again with growing pauses; one that tries by itself is left to it", () => {
    join("p", "a");
    jest.advanceTimersByTime(100);
    streams[0]!.fail(0);
    jest.advanceTimersByTime(10_000);
    expect(streams).toHaveLength(1);
    streams[0]!.fail(2);
    jest.advanceTimersByTime(999);
    expect(streams).toHaveLength(1);
    jest.advanceTimersByTime(1);
    streams[1]!.fail(2);
    jest.advanceTimersByTime(1999);
    expect(streams).toHaveLength(2);
    jest.advanceTimersByTime(1);
    streams[2]!.begin();
    streams[2]!.fail(2);
    jest.advanceTimersByTime(1000);
    expect(streams).toHaveLength(4);
  });

  it("leaves no stream behind that never began, however often pages come and go meanwhile", () => {
    const first = join("p", "a");
    for (let i = 0; i < 5; i++) {
      const { leave } = join("q", `b${i}`);
      jest.advanceTimersByTime(100);
      leave();
    }
    jest.advanceTimersByTime(100);
    streams.at(-1)!.begin();
    expect(open()).toEqual([streams.at(-1)]);
    first.leave();
    jest.advanceTimersByTime(100);
    expect(open()).toEqual([]);
  });
});
