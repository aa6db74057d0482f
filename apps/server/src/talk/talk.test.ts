import {
  talkAddress,
  type Inbox,
  type Mail,
  type Talk,
  type TalkFile,
  type TalkPlace,
  type TalkThreads,
} from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller, ines: Caller, ann: Caller, bo: Caller, quill: Caller, zed: Caller, dagny: Caller;
let project: string;

const at = (over: Partial<TalkPlace> = {}): TalkPlace => ({ about: "activity", project, aboutId: "dig", ...over });
const say = (who: Caller, text: string, place = at()) => who.send("post", "/api/talk", { place, text });
const talk = async (who: Caller, place = at()): Promise<Talk> =>
  (await who.get(`/api${talkAddress(place)}`)).body as Talk;
const threads = async (who: Caller, of = ""): Promise<TalkThreads["threads"]> =>
  ((await who.get(`/api/talks?project=${of}`)).body as TalkThreads).threads;
const told = async (who: Caller) =>
  ((await who.get("/api/inbox")).body as Inbox).notices.map(({ kind, subject, seen }) => ({ kind, subject, seen }));
const mails = async (who: Caller): Promise<Mail[]> => (await who.get("/api/mail")).body as Mail[];

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ines = await world.caller("ines", ["controller"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
  zed = await world.caller("zed", ["contributor"], "zed");
  quill = await world.caller("quill", ["reader"]);
  dagny = await world.caller("dagny", ["administrator"]);
});
afterAll(() => world.drop());
beforeEach(async () => {
  for (const table of ["talk_message", "following", "notice", "mail"])
    await world.database.query(`delete from ${table}`);
  project = await world.addProject(tomas.me, smallPlan());
});

const attach = (who: Caller, name: string, bytes: Buffer, place = at()) =>
  who.send("post", `/api${talkAddress(place).replace("/talk", "/talk-files")}`).attach("file", bytes, name);

describe("a file in a talk", () => {
  it("waits for its message, goes with it once, and is read by whoever reads that", async () => {
    const sent = (await attach(tomas, "Møller soil.txt", Buffer.from("clay below"))).body as TalkFile;
    expect(sent).toMatchObject({ file: "Møller soil.txt", type: "text/plain", size: 10 });
    const address = `/api/talk-files/${sent.id}`;
    expect((await quill.get(address)).status).toBe(404);
    const withFile = (who: Caller, text = "", place = at()) =>
      who.send("post", "/api/talk", { place, text, files: [sent.id] });
    for (const wrong of [await withFile(quill), await withFile(tomas, "", at({ aboutId: "", about: "project" }))])
      expect([wrong.status, wrong.body.message]).toEqual([422, expect.stringContaining("is not there any more")]);
    expect((await talk(ann)).messages).toEqual([]);
    expect((await withFile(tomas)).status).toBe(200);
    expect((await withFile(tomas)).status).toBe(422);
    const { messages } = await talk(ann);
    expect(messages.map(({ text, files }) => [text, files])).toEqual([["", [sent]]]);
    const got = await ann.get(address);
    expect([got.status, got.headers["content-disposition"], String(got.body)]).toEqual([
      200,
      expect.stringMatching(/^attachment; .*soil\.txt/),
      "clay below",
    ]);
    expect((await ann.get(`${address}?show`)).headers["content-type"]).toMatch(/^text\/plain/);
    for (const who of [zed, dagny]) expect((await who.get(address)).status).toBe(404);
    expect((await mails(ann))[0]).toMatchObject({ body: expect.stringContaining("File: Møller soil.txt") });
    // Removed with what was said, and there again with it.
    const { id } = messages[0]!;
    await tomas.send("put", `/api/talk/${id}`, { removed: true });
    expect([(await ann.get(address)).status, (await talk(ann)).messages[0]!.files]).toEqual([404, []]);
    await tomas.send("put", `/api/talk/${id}`, { removed: false });
    expect((await ann.get(address)).status).toBe(200);
  });

  it("is refused where nothing may be said, where it is a program, and forgotten where nothing is said with it", async () => {
    expect((await attach(zed, "x.txt", Buffer.from("x"))).status).toBe(404);
    const program = await attach(tomas, "notes.txt", Buffer.from("MZ\x90\0".padEnd(200, "\0"), "latin1"));
    expect(program.status).toBe(422);
    const { id } = (await attach(tomas, "a.txt", Buffer.from("a"))).body as TalkFile;
    await world.app.sweep();
    expect((await tomas.get(`/api/talk-files/${id}`)).status).toBe(200);
    await world.database.query("update talk_file set at = at - interval 7 hour");
    await world.database.query("update document_part set at = at - interval 7 hour");
    await world.app.sweep();
    expect((await tomas.get(`/api/talk-files/${id}`)).status).toBe(404);
    expect(
      await world.database.query(
        "select 1 from document_part p join document_version v using (content_id) where v.document_id = ?",
        [id],
      ),
    ).toEqual([]);
    expect((await say(tomas, " ")).status).toBe(422);
  });
});

describe("talk", () => {
  it("is read and written by whoever sees the project or works in it, and is not there for others", async () => {
    expect((await say(quill, "When does it begin?")).status).toBe(200);
    expect((await say(bo, "On Monday.")).status).toBe(200);
    const { messages, people, link, name, mayWrite } = await talk(ann);
    expect(messages.map(({ by, text, own }) => [by, text, own])).toEqual([
      ["Quill", "When does it begin?", false],
      ["Bo", "On Monday.", false],
    ]);
    expect([link, name.endsWith(" Dig"), mayWrite]).toEqual([null, true, true]);
    expect((await talk(quill)).link).toBe(`/projects/${project}/plan?at=dig`);
    expect(people).toEqual(["Ann", "Bo", "Ines", "Quill", "Tomas"]);
    for (const who of [zed, dagny]) {
      expect((await who.get(`/api${talkAddress(at())}`)).status).toBe(404);
      expect((await say(who, "x")).status).toBe(404);
    }
    // Gates, reports and the registers are not for who only works there.
    await world.openPeriod(1, "2026-03-02", "2026-03-06");
    const report = at({ about: "report", aboutId: "1" });
    expect((await say(tomas, "Late again.", report)).status).toBe(200);
    expect((await say(ann, "x", report)).status).toBe(404);
  });

  it("tells who is named, who takes part, who does it; each once, and not whoever says it", async () => {
    await say(tomas, "@Quill and @Zed, is the permit there?");
    // Zed does not see the project: to name them tells them nothing.
    expect(await told(zed)).toEqual([]);
    expect((await told(quill)).map(({ subject }) => subject)).toEqual([
      expect.stringMatching(/^Tomas asks you: .* Dig$/),
    ]);
    expect((await told(ann)).map(({ subject }) => subject)).toEqual([expect.stringMatching(/^Tomas on .* Dig$/)]);
    expect([await told(bo), await told(tomas)]).toEqual([[], []]);
    await say(quill, "It is.");
    expect(await told(tomas)).toHaveLength(1);
    expect(await told(ann)).toHaveLength(2);
    expect((await threads(quill))[0]).toMatchObject({ count: 2, unread: 0, last: { by: "Quill", text: "It is." } });
    expect((await threads(ann))[0]).toMatchObject({ unread: 2 });
    await ann.send("put", "/api/talk-read", at());
    expect((await threads(ann))[0]).toMatchObject({ unread: 0 });
    expect((await told(ann)).every(({ seen }) => seen)).toBe(true);
    expect(await threads(bo)).toEqual([]);
    expect(await threads(ines, project)).toHaveLength(1);
    expect(await threads(bo, project)).toHaveLength(1);
    expect((await zed.get(`/api/talks?project=${project}`)).status).toBe(404);
    const counts = `/api/projects/${project}/talk-counts`;
    expect((await tomas.get(counts)).body).toEqual([{ about: "activity", aboutId: "dig", count: 2, unread: 1 }]);
    expect((await zed.get(counts)).status).toBe(404);
  });

  it("leaves a trace where it is changed or removed; only its writer changes it", async () => {
    await say(ann, "The gate jams.");
    const [{ id }] = (await talk(ann)).messages as [Talk["messages"][number]];
    const put = (who: Caller, body: object) => who.send("put", `/api/talk/${id}`, body);
    expect((await put(tomas, { text: { was: "The gate jams.", value: "x" } })).status).toBe(403);
    const changed = (await put(ann, { text: { was: "The gate jams.", value: "The gate jams, @Ines." } })).body as Talk;
    expect(changed.messages[0]).toMatchObject({ text: "The gate jams, @Ines.", named: ["Ines"] });
    expect(changed.messages[0]!.was.map(({ text }) => text)).toEqual(["The gate jams."]);
    expect(await told(ines)).toHaveLength(1);
    expect((await put(ann, { text: { was: "The gate jams.", value: "y" } })).status).toBe(409);
    expect((await put(quill, { removed: true })).status).toBe(403);
    expect(((await put(tomas, { removed: true })).body as Talk).messages[0]).toMatchObject({
      text: "",
      removedBy: "Tomas",
    });
    // What the manager removed, its writer does not bring back.
    expect((await put(ann, { removed: false })).status).toBe(403);
    expect((await talk(ann)).messages[0]!.mayRemove).toBe(false);
    expect((await put(tomas, { removed: false })).status).toBe(200);
    expect((await talk(quill)).messages[0]!.text).toBe("The gate jams, @Ines.");
  });

  it("is closed with its project, and refuses what is nothing", async () => {
    expect((await say(tomas, "   ")).status).toBe(422);
    expect((await say(tomas, "x".repeat(5001))).status).toBe(422);
    expect((await say(tomas, "x", at({ aboutId: "nowhere" }))).status).toBe(404);
    expect((await tomas.get("/api/talk?about=weather")).status).toBe(422);
    await world.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'over')",
      [project, tomas.me.id],
    );
    expect((await say(tomas, "x")).body.message).toMatch(/closed project/);
    expect((await talk(tomas)).mayWrite).toBe(false);
  });

  it("of something in a register is with its owner too, who does not see the project", async () => {
    const raised = await tomas.send("post", "/api/matters", {
      ...{ kind: "issue", title: "Crane", project, group: null, owner: zed.me.id },
    });
    const { matter } = raised.body as { matter: { id: string } };
    const place = at({ about: "matter", project: "", aboutId: matter.id });
    expect((await say(tomas, "@Zed, how long?", place)).status).toBe(200);
    expect((await told(zed)).map(({ kind }) => kind)).toContain("talk");
    expect((await talk(zed, place)).messages).toHaveLength(1);
    expect((await ann.get(`/api${talkAddress(place)}`)).status).toBe(404);
  });

  it("is not told any more to whoever works there no longer", async () => {
    await say(tomas, "@Bo, can you?");
    expect(await told(bo)).toHaveLength(1);
    await world.database.query(
      "delete from plan_row where project_id = ? and table_name = 'assignments' and json_value(doc, '$.person') = 'bo'",
      [project],
    );
    expect([await told(bo), await threads(bo)]).toEqual([[], []]);
  });
});

describe("mail of what was said", () => {
  it("is answered from the mailbox that ships with the application, by whoever received it alone", async () => {
    await say(tomas, "@Ann, when?");
    const [mail] = (await mails(ann)) as [Mail];
    expect(mail).toMatchObject({ answers: true, subject: expect.stringContaining("Tomas asks you") });
    // The administrator sees all mail, and answers for nobody.
    expect((await mails(dagny))[0]).toMatchObject({ id: mail.id, answers: false });
    expect((await dagny.send("post", `/api/mail/${mail.id}/answer`, { text: "x" })).status).toBe(404);
    expect((await ann.send("post", `/api/mail/${mail.id}/answer`, { text: "Tomorrow." })).status).toBe(200);
    expect((await talk(tomas)).messages.at(-1)).toMatchObject({ by: "Ann", text: "Tomorrow.", byMail: true });
    expect(await told(tomas)).toHaveLength(1);
  });
});
