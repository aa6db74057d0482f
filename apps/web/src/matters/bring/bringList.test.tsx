/** @jest-environment jsdom */
import type { BroughtList, NewMatter } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show } from "../../testing/fakePage.tsx";
import { useMatters } from "../queries.ts";
import { BringList } from "./BringList.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));
// jsdom has no dialogs.
HTMLDialogElement.prototype.showModal = function open() {
  this.open = true;
};

const matter = (title: string): NewMatter => ({ kind: "action", project: "p", group: null, title });
const line = (row: number, title: string, more: Partial<BroughtList["lines"][number]> = {}) => ({
  ...{ row, said: { title }, matter: matter(title), faults: [], isThere: false },
  ...more,
});
const list = (...lines: BroughtList["lines"]): BroughtList => ({
  headings: [{ heading: "Thing", column: "title" }],
  columns: [
    { id: "title", name: "What" },
    { id: "due", name: "Due" },
  ],
  ...{ asksDateOrder: false, lines },
});

const Page = () => <BringList kind="action" project="p" keeper={useMatters()} />;

/** Opens it over a server that understands files so, and pastes lines. */
async function pasted(
  understood: (address: URL) => BroughtList | Refusal,
  add: unknown = { ids: ["1"], revisions: [] },
) {
  const sent = listen(({ to }) => {
    const [way, address] = to.split(" ") as [string, string];
    const url = new URL(address, "http://x");
    if (url.pathname === "/api/matters/read") return understood(url);
    return way === "POST" ? add : { ok: true };
  });
  show(<Page />);
  await userEvent.click(screen.getByRole("button", { name: "Bring a list …" }));
  await userEvent.click(screen.getByLabelText("Lines of a spreadsheet"));
  await userEvent.paste("Thing\nPump");
  await userEvent.click(screen.getByRole("button", { name: "Read these lines" }));
  return sent;
}
const button = (name: RegExp) => screen.findByRole("button", { name });

beforeEach(() => jest.clearAllMocks());

describe("a list for the registers", () => {
  it("is looked at before it is added: what stands there is left out, and all of it is taken back at once", async () => {
    const sent = await pasted(() => list(line(2, "Pump"), line(3, "Crane", { isThere: true })));
    expect(await screen.findByText("2 rows; 1 of a name that stands there, left out.")).toBeTruthy();
    expect(sent.filter(({ to }) => to.startsWith("POST /api/matters/list"))).toEqual([]);
    await userEvent.click(await button(/^Add 1$/));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(sent.find(({ to }) => to === "POST /api/matters/list")!.body).toEqual({ matters: [matter("Pump")] });
    const [words, { action }] = (toast as unknown as jest.Mock).mock.calls[0] as [
      string,
      { action: { onClick: () => void } },
    ];
    expect(words).toBe("1 line is added.");
    action.onClick();
    await waitFor(() => expect(sent.at(-1)).toEqual({ to: "DELETE /api/matters/list", body: { ids: ["1"] } }));
  });

  it("shows what is to be mended first and adds nothing until then; columns are said by hand", async () => {
    const wrong = line(9, "Crane", { matter: null, faults: ["Due: “soon” is no date"] });
    await pasted((url) =>
      url.searchParams.get("columns") === '{"Thing":""}' ? list(line(2, "Pump")) : list(line(2, "Pump"), wrong),
    );
    const table = within(await screen.findByRole("region", { name: "What was understood" }));
    expect(table.getAllByRole("row")[2]!.textContent).toContain("“soon” is no date");
    expect((await button(/^Add 1$/)).hasAttribute("disabled")).toBe(true);
    await userEvent.selectOptions(screen.getByLabelText("What Thing is"), "left out");
    await waitFor(async () => expect((await button(/^Add 1$/)).hasAttribute("disabled")).toBe(false));
  });

  it("says why a file cannot be read, or why a list cannot be added, and keeps it in sight", async () => {
    await pasted(() => new Refusal("No row of headings was found."));
    expect(await screen.findByText(/No row of headings was found/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Take another file" }));
    expect(screen.getByLabelText("Lines of a spreadsheet")).toBeTruthy();
  });

  it("keeps a list in sight that could not be added", async () => {
    await pasted(() => list(line(2, "Pump")), new Refusal("“Pump”: LG-02 is closed."));
    await userEvent.click(await button(/^Add 1$/));
    expect((await screen.findByRole("alert")).textContent).toBe("“Pump”: LG-02 is closed.");
    expect(screen.getByText("Pump")).toBeTruthy();
  });
});
