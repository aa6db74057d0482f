/** @jest-environment jsdom */
import { LARGEST_FILE, type ProjectDocument, type ProjectDocuments } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show } from "../testing/fakePage.tsx";
import { DocumentList } from "./DocumentList.tsx";
import { DocumentsButton } from "./DocumentsButton.tsx";
import { sizeWords } from "./sizeWords.ts";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const version = (number: number, type = "text/plain", file = `f${number}.txt`) => ({
  ...{ number, file, type, size: 1_650_000, by: "Tomas", at: "2026-11-20T10:00:00.000Z" },
});
const document = (id: string, more: Partial<ProjectDocument> = {}): ProjectDocument => ({
  ...{ id, about: "project", aboutId: "", name: `Doc ${id}`, link: null, by: "Tomas", at: "2026-11-20T10:00:00.000Z" },
  versions: [version(1)],
  ...more,
});
const PLACE = { about: "project", aboutId: "" } as const;

const open = (documents: ProjectDocument[], mayEdit = true, answer: () => unknown = () => ({ ok: true })) => {
  const sent = listen(({ to }) =>
    to.startsWith("GET") ? ({ mayEdit, documents } satisfies ProjectDocuments) : answer(),
  );
  show(<DocumentList project="p" place={PLACE} ask="permits" onOf={() => "on “Dig”"} />);
  return (method: string) => sent.filter(({ to }) => to.startsWith(method)).map(({ to }) => to);
};
const file = (name: string, size = 3): File => Object.defineProperty(new File(["abc"], name), "size", { value: size });

describe("documents", () => {
  it("open in place where the browser shows them, else are saved; links lead out; each says what it is on", async () => {
    open([
      document("a", { versions: [version(2, "application/pdf", "plan 2.pdf"), version(1, "application/pdf")] }),
      document("b", { versions: [version(1, "application/zip", "b.zip")] }),
      document("c", { link: "https://example.org", versions: [] }),
      document("d", { about: "activity", aboutId: "dig" }),
    ]);
    const list = within(await screen.findByRole("list", { name: "Documents" }));
    expect(list.getByRole("link", { name: "Doc b" }).getAttribute("href")).toBe("/api/projects/p/documents/b/1");
    expect(list.getByRole("link", { name: "Doc c" }).getAttribute("href")).toBe("https://example.org");
    expect(list.getByText("2 versions")).toBeTruthy();
    expect(list.getAllByText(/on “Dig”/)).toHaveLength(1);
    await userEvent.click(list.getByRole("button", { name: "Doc a" }));
    const dialog = screen.getByRole("dialog", { name: "Doc a" });
    expect(within(dialog).getByTitle("Doc a").getAttribute("src")).toBe("/api/projects/p/documents/a/2?show");
  });

  it("are added, one after the other; what is refused is told by its name, and the others come all the same", async () => {
    let calls = 0;
    const sent = open([], true, () => (++calls === 2 ? new Refusal("“tool.exe” is a program.") : { ok: true }));
    expect(await screen.findByText("None yet: permits.")).toBeTruthy();
    const input = screen.getByLabelText("Add files");
    await userEvent.upload(input, [file("a.txt"), file("tool.exe"), file("c.txt"), file("film.mp4", LARGEST_FILE + 1)]);
    await waitFor(() =>
      expect(screen.getAllByRole("alert").map(({ textContent }) => textContent)).toEqual([
        "“tool.exe” is a program.",
        "“film.mp4” has more than 25 MB; give a link to it instead.",
      ]),
    );
    expect(sent("POST")).toEqual(Array(3).fill("POST /api/projects/p/files?about=project"));
  });

  it("are given another version, another name, and taken away with a way back", async () => {
    const sent = open([document("a")]);
    await userEvent.upload(await screen.findByLabelText("New version of Doc a"), file("b.txt"));
    await waitFor(() => expect(sent("POST")).toEqual(["POST /api/projects/p/files?document=a"]));
    await userEvent.click(screen.getByRole("button", { name: "Rename Doc a" }));
    await userEvent.clear(screen.getByLabelText("Name of Doc a"));
    await userEvent.type(screen.getByLabelText("Name of Doc a"), "Permit{Enter}");
    await waitFor(() => expect(sent("PUT")).toHaveLength(1));
    await userEvent.click(screen.getByRole("button", { name: "Remove Doc a" }));
    await waitFor(() => expect(sent("PUT")).toHaveLength(2));
  });

  it("are links too", async () => {
    const sent = open([]);
    await userEvent.click(await screen.findByRole("button", { name: "Add a link" }));
    await userEvent.type(screen.getByLabelText("Address"), "https://example.org/x");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(sent("POST")).toEqual(["POST /api/projects/p/documents"]));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("are read alone by whoever may not change the project", async () => {
    open([document("a")], false);
    await screen.findByRole("list", { name: "Documents" });
    expect(screen.queryByLabelText("Add files")).toBeNull();
    expect(screen.queryByRole("button", { name: /Rename|Remove/ })).toBeNull();
  });

  it("are counted where they stand aside; nothing stands where there is none and none could be added", async () => {
    listen(() => ({ mayEdit: false, documents: [document("a", { about: "gate", aboutId: "idea" })] }));
    show(
      <>
        <DocumentsButton project="p" place={{ about: "gate", aboutId: "idea" }} of="Idea" ask="it" />
        <DocumentsButton project="p" place={{ about: "gate", aboutId: "works" }} of="Works" ask="it" />
      </>,
    );
    expect(await screen.findByRole("button", { name: "1 document of Idea" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Works/ })).toBeNull();
  });

  it("say their size as people read it", () => {
    expect([0, 999, 1000, 1_660_000, 26_214_400, 250_000].map(sizeWords)).toEqual([
      "0 B",
      "999 B",
      "1.0 kB",
      "1.7 MB",
      "26.2 MB",
      "250 kB",
    ]);
  });
});
