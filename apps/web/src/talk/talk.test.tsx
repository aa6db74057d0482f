/** @jest-environment jsdom */
import type { Announcement, Followed, Found, Talk, TalkFile, TalkMessage, TalkPlace } from "@chronometra/contract";
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { preference } from "../shared/session/preferences.ts";
import { AnnounceButton } from "./announce/AnnounceButton.tsx";
import { Announcements } from "./announce/Announcements.tsx";
import { FollowButtons } from "./FollowButtons.tsx";
import { TalkButton } from "./TalkButton.tsx";
import { TalkPage } from "./TalkPage.tsx";
import { Thread } from "./Thread.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const PLACE: TalkPlace = { about: "activity", project: "p", aboutId: "dig" };
const said = (id: string, text: string, more: Partial<TalkMessage> = {}): TalkMessage => ({
  ...{
    id,
    by: "Tomas",
    own: false,
    at: "2026-11-20T10:00:00.000Z",
    text,
    byMail: false,
    named: [],
    was: [],
    files: [],
  },
  ...{ removedBy: null, mayRemove: more.own === true },
  ...more,
});
const talk = (messages: TalkMessage[], more: Partial<Talk> = {}): Talk => ({
  ...{ place: PLACE, name: "T-1 Dig", link: "/projects/p/plan?at=dig", mayWrite: true, messages, earlier: 0 },
  people: ["Ann", "Ann Marsh", "Bo"],
  ...more,
});
const FILE: TalkFile = { id: "f1", file: "log.txt", type: "text/plain", size: 2048 };
const FOUND: Found = {
  ...{ readAs: [], projects: [], people: [], watchlists: [], groups: [], risks: [], matters: [], periods: [] },
  activities: [
    { id: "q", project: "p", code: "T-1", name: "Quay wall", branch: "", kind: "work", state: "open", finish: null },
  ],
};

const FOLLOWED: Followed[] = [
  { place: PLACE, name: "T-1 Dig", link: "/projects/p/plan?at=dig", follows: true, pinned: false },
];

const ANNOUNCED: Announcement = {
  ...{ id: "n", project: "p", group: null, of: "T-1", text: "The slip is closed on Friday.", by: "Ines" },
  ...{ at: "2026-11-20T10:00:00.000Z", until: "2026-11-27", mayEnd: true },
};

/** A server with that talk; `write` answers what is written. */
const serve = (now: Talk, write: (sent: Sent) => unknown = () => now): Sent[] =>
  listen((sent) => {
    if (sent.to.startsWith("POST /api/find")) return FOUND;
    if (sent.to.startsWith("PUT /api/talk-read")) return { ok: true };
    if (sent.to === "GET /api/following") return FOLLOWED;
    if (sent.to.includes("/api/announcements")) return sent.to.startsWith("GET") ? [ANNOUNCED] : [];
    if (!sent.to.startsWith("GET")) return write(sent);
    if (sent.to.includes("talk-counts")) return [{ about: "activity", aboutId: "dig", count: 3, unread: 1 }];
    if (sent.to.startsWith("GET /api/talks"))
      return {
        threads: [
          {
            place: PLACE,
            name: "T-1 Dig",
            count: 3,
            unread: 2,
            last: { by: "Bo", at: "2026-11-20T10:00:00.000Z", text: "Yes" },
          },
        ],
        more: false,
      };
    return now;
  });
const written = (sent: readonly Sent[]) =>
  sent.filter(({ to }) => /^(POST|PUT) \/api\/talk(\/|$)/.test(to)).map(({ body }) => body);
const field = () => screen.findByRole("combobox", { name: "What you say" });

beforeEach(() => sessionStorage.clear());

describe("talk", () => {
  it("is a log of who said what; reading it is noted, what one wrote oneself can be changed", async () => {
    const sent = serve(
      talk([
        said("1", "@Ann, is it wet?", { named: ["Ann"] }),
        said("2", "Yes", {
          own: true,
          by: "Cora",
          byMail: true,
          was: [{ text: "Perhaps", until: "2026-11-20T11:00:00.000Z" }],
        }),
        said("3", "", { by: "Bo", removedBy: "Bo" }),
      ]),
    );
    show(<Thread place={PLACE} />);
    const log = within(await screen.findByRole("list", { name: "What was said" }));
    expect(log.getByText("@Ann").tagName).toBe("STRONG");
    expect(log.getByText(/by mail/)).toBeTruthy();
    expect(log.getByText("changed, 1 time")).toBeTruthy();
    expect(log.getByText("Removed by Bo.")).toBeTruthy();
    await waitFor(() => expect(sent.map(({ to }) => to)).toContain("PUT /api/talk-read"));
    expect(log.getAllByRole("button", { name: "Change" })).toHaveLength(1);
    await userEvent.click(log.getByRole("button", { name: "Change" }));
    await userEvent.type(screen.getByRole("combobox", { name: "What it says now" }), ", very");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(written(sent)).toEqual([{ text: { was: "Yes", value: "Yes, very" } }]));
  });

  it("calls people by name: the list narrows, Enter or Tab takes, Escape closes it alone", async () => {
    const sent = serve(talk([]));
    show(<Thread place={PLACE} />);
    await userEvent.type(await field(), "@an");
    const list = screen.getByRole("listbox", { name: "Who or what is meant" });
    expect(
      within(list)
        .getAllByRole("option")
        .map(({ textContent }) => textContent),
    ).toEqual(["Ann", "Ann Marsh"]);
    await userEvent.keyboard("{ArrowDown}{Enter}");
    expect(((await field()) as HTMLTextAreaElement).value).toBe("@Ann Marsh ");
    await userEvent.keyboard("and @b{Escape}{Enter}now{Control>}{Enter}{/Control}");
    await waitFor(() => expect(written(sent)).toEqual([{ place: PLACE, text: "@Ann Marsh and @b\nnow", files: [] }]));
    await waitFor(async () => expect(((await field()) as HTMLTextAreaElement).value).toBe(""));
  });

  it("sends files with what is said, kept beside the draft until then; what cannot be sent is told", async () => {
    const sent = serve(talk([]), ({ to, body }) =>
      to.startsWith("POST /api/talk-files")
        ? { id: `f${++came}`, file: came === 1 ? "log.txt" : "plan.pdf", type: "text/plain", size: 2048 }
        : talk([said("1", (body as { text: string }).text, { files: [FILE], by: "Cora" })]),
    );
    let came = 0;
    show(<Thread place={PLACE} />);
    const input = await screen.findByLabelText("Files to go with it", { selector: "input" });
    await userEvent.upload(input, [new File(["a"], "log.txt"), new File(["b"], "plan.pdf")]);
    const waiting = () => within(screen.getByRole("list", { name: "Files to go with it" }));
    await waitFor(() => expect(waiting().getAllByRole("listitem")).toHaveLength(2));
    cleanup();
    show(<Thread place={PLACE} />);
    await field();
    await userEvent.click(waiting().getByRole("button", { name: "Leave plan.pdf out" }));
    const huge = Object.defineProperty(new File(["x"], "huge.zip"), "size", { value: 26 * 1024 * 1024 });
    await userEvent.upload(screen.getByLabelText("Files to go with it", { selector: "input" }), huge);
    expect((await screen.findByRole("alert")).textContent).toMatch(/^“huge.zip” has more than 25 MB/);
    await userEvent.click(screen.getByRole("button", { name: "Send" }));
    await waitFor(() => expect(written(sent)).toEqual([{ place: PLACE, text: "", files: ["f1"] }]));
    const files = within(await screen.findByRole("list", { name: "Files of Cora" }));
    expect(files.getByRole("button", { name: "log.txt" })).toBeTruthy();
    expect(screen.queryByRole("list", { name: "Files to go with it" })).toBeNull();
  });

  it("links what is found by its name", async () => {
    serve(talk([]));
    show(<Thread place={PLACE} />);
    await userEvent.type(await field(), "see #quay");
    await userEvent.click(await screen.findByText("Quay wall"));
    expect(((await field()) as HTMLTextAreaElement).value).toBe("see [Quay wall](/projects/p/plan?at=q) ");
  });

  it("keeps what could not be sent, also over another page, and says why", async () => {
    serve(talk([]), () => new Refusal("The network is away.", 0));
    show(<Thread place={PLACE} />);
    await userEvent.type(await field(), "Nearly lost");
    await userEvent.click(screen.getByRole("button", { name: "Send" }));
    expect((await screen.findByRole("alert")).textContent).toMatch(/^Not sent/);
    expect(((await field()) as HTMLTextAreaElement).value).toBe("Nearly lost");
    expect(Object.values({ ...sessionStorage })).toEqual(["Nearly lost"]);
  });

  it("of a closed project is only read; what came before is shown when asked", async () => {
    const sent = serve(talk([said("1", "x")], { mayWrite: false, earlier: 12 }));
    show(<Thread place={PLACE} />);
    expect(await screen.findByText(/The project is closed/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Show the 12 before" }));
    await waitFor(() => expect(sent.some(({ to }) => to.includes("all=1"))).toBe(true));
  });

  it("says on a button how much there is, and opens it", async () => {
    serve(talk([said("1", "Hello")]));
    show(<TalkButton place={PLACE} of="Dig" />);
    await userEvent.click(await screen.findByRole("button", { name: "3 messages about Dig, 1 not read" }));
    expect(await within(screen.getByRole("dialog", { name: "About Dig" })).findByText("Hello")).toBeTruthy();
  });

  it("is listed where one takes part, and found there", async () => {
    serve(talk([said("1", "Hello")]));
    show(<TalkPage />, { me: someone("contributor") });
    const list = within(await screen.findByRole("list", { name: "Talk" }));
    const line = list.getByRole("link", { name: "T-1 Dig" });
    expect(line.getAttribute("href")).toBe("/talk?about=activity&project=p&id=dig");
    await userEvent.type(screen.getByLabelText("Find in talk"), "nothing such");
    expect(screen.getByText(/None of 1 talk has/)).toBeTruthy();
  });

  it("is followed and pinned beside it, and ended there", async () => {
    const sent = serve(talk([]));
    show(<FollowButtons place={PLACE} of="Dig" />);
    const follow = await screen.findByRole("button", { name: "Follow Dig" });
    expect([follow.getAttribute("aria-pressed"), follow.textContent]).toEqual(["true", "Followed"]);
    await userEvent.click(follow);
    await userEvent.click(screen.getByRole("button", { name: "Pin Dig" }));
    const bodies = sent.filter(({ to }) => to === "PUT /api/following").map(({ body }) => body);
    expect(bodies).toEqual([
      { place: PLACE, follows: false },
      { place: PLACE, pinned: true },
    ]);
  });

  it("is announced to all: it stands until it is seen, which is kept, or ended for everyone", async () => {
    const sent = serve(talk([]));
    show(<Announcements project="p" />);
    expect(await screen.findByText("The slip is closed on Friday.")).toBeTruthy();
    expect(screen.getByText(/For all of T-1; Ines, until 27 Nov 2026/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Seen" }));
    expect(screen.queryByRole("list", { name: "Announcements" })).toBeNull();
    expect(preference("announcementsSeen")).toContain("n");
    expect(sent.some(({ to }) => to.startsWith("PUT /api/announcements"))).toBe(false);
  });

  it("is announced by whoever may, with its last day; what was announced is ended", async () => {
    const sent = serve(talk([]));
    show(
      <>
        <AnnounceButton project="p" group={null} of="T-1" />
        <Announcements whole />
      </>,
    );
    await userEvent.click(await screen.findByRole("button", { name: "Announce …" }));
    const dialog = within(screen.getByRole("dialog", { name: "To all of T-1" }));
    await userEvent.type(dialog.getByLabelText("What is to be known"), "Fog");
    await userEvent.click(dialog.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(sent.find(({ to }) => to === "POST /api/announcements")?.body).toMatchObject({
        project: "p",
        text: "Fog",
      }),
    );
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("announced is ended for all by whoever may", async () => {
    const sent = serve(talk([]));
    show(<Announcements whole />);
    await userEvent.click(await screen.findByRole("button", { name: "End for all" }));
    await waitFor(() =>
      expect(sent.find(({ to }) => to === "PUT /api/announcements/n")?.body).toEqual({ ended: true }),
    );
    await waitFor(() => expect(screen.queryByText("The slip is closed on Friday.")).toBeNull());
  });
});
