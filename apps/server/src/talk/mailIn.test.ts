import { once } from "node:events";
import type { AddressInfo } from "node:net";
import { talkAddress, type Mail, type Talk, type TalkPlace } from "@chronometra/contract";
import { createTransport, type SendMailOptions } from "nodemailer";
import { SMTPServer } from "smtp-server";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { writtenIn } from "./mailIn.ts";

let world: TestWorld;
let tomas: Caller;
let out: SMTPServer, into: SMTPServer;
const port = (server: SMTPServer): number => (server.server.address() as AddressInfo).port;
let left: string[] = [];
let place: TalkPlace;

beforeAll(async () => {
  out = new SMTPServer({
    ...{ authOptional: true, disabledCommands: ["STARTTLS"] },
    onData: (stream, _session, done) => {
      let text = "";
      stream.on("data", (part: Buffer) => (text += part.toString("utf8")));
      stream.on("end", () => (left.push(text), done()));
    },
  });
  out.listen(0, "127.0.0.1");
  await once(out.server, "listening");
  const smtp = `smtp://127.0.0.1:${port(out)}`;
  world = await TestWorld.open({ mail: { smtp, domain: "here.example", takesAnswers: true } });
  into = await world.app.takeMail("127.0.0.1:0");
  await once(into.server, "listening");
  tomas = await world.caller("tomas", ["projectManager"]);
  await world.caller("ann", ["contributor"], "ann");
});
afterAll(async () => {
  out.close();
  into.close();
  await world.drop();
});

/** Tomas asks Ann; gives where the mail that she got is answered. */
async function asked(): Promise<string> {
  for (const table of ["talk_message", "mail"]) await world.database.query(`delete from ${table}`);
  left = [];
  place = { about: "activity", project: await world.addProject(tomas.me, smallPlan()), aboutId: "dig" };
  expect((await tomas.send("post", "/api/talk", { place, text: "@Ann, when?" })).status).toBe(200);
  await world.app.deliver();
  expect(left).toHaveLength(1);
  const [, address] = /^Reply-To: (\S+)/im.exec(left[0]!)!;
  return address!;
}
const QUOTED =
  "\n\nOn Tue, 1 Dec 2026 at 10:00, Chronometra <chronometra@here.example> wrote:\n> --- write your answer above this line ---\n> @Ann, when?";
async function send(to: string, over: SendMailOptions = {}): Promise<number> {
  const client = createTransport({ host: "127.0.0.1", port: port(into), secure: false, ignoreTLS: true });
  try {
    await client.sendMail({ from: "Ann <ann@here.example>", to, subject: "Re:", text: `Tomorrow.${QUOTED}`, ...over });
    return 250;
  } catch (error) {
    return (error as { responseCode: number }).responseCode;
  } finally {
    client.close();
  }
}
const texts = async (): Promise<string[]> =>
  ((await tomas.get(`/api${talkAddress(place)}`)).body as Talk).messages.map(({ by, text }) => `${by}: ${text}`);

describe("an answer by mail", () => {
  it("stands where it was asked, without what it quotes, and once however often it comes", async () => {
    const to = await asked();
    expect(left[0]).toContain("--- write your answer above this line ---");
    expect(await send(to, { messageId: "<once@mail.example>" })).toBe(250);
    expect(await send(to, { messageId: "<once@mail.example>" })).toBe(250);
    expect(await texts()).toEqual(["Tomas: @Ann, when?", "Ann: Tomorrow."]);
    const [mail] = (await tomas.get("/api/mail")).body as [Mail];
    expect(mail.subject).toMatch(/^Ann on /);
  });

  it("is refused from any other address, to any other, with nothing in it, and of whoever is not there any more", async () => {
    const to = await asked();
    expect(await send(to, { from: "Tomas <tomas@here.example>" })).toBe(550);
    expect(await send(`talk+${"0".repeat(32)}@here.example`)).toBe(550);
    expect(await send("ann@here.example")).toBe(550);
    expect(await send(to, { text: QUOTED })).toBe(550);
    expect(await send(to, { text: "x".repeat(6000) })).toBe(550);
    await world.database.query(
      "delete from plan_row where project_id = ? and table_name = 'assignments' and json_value(doc, '$.person') = 'ann'",
      [place.project],
    );
    expect(await send(to)).toBe(550);
    expect(await texts()).toEqual(["Tomas: @Ann, when?"]);
  });

  it("brings its files, says what is not taken, and leaves the picture of a signature out", async () => {
    const to = await asked();
    const attachments = [
      { filename: "Plän.txt", content: "depths" },
      { filename: "setup.exe", content: Buffer.from("MZ\x90\0".padEnd(200, "\0"), "latin1") },
      { filename: "logo.png", content: "x", cid: "logo@mail.example", contentDisposition: "inline" as const },
    ];
    expect(await send(to, { text: undefined, html: "See this.<img src='cid:logo@mail.example'>", attachments })).toBe(
      250,
    );
    const { messages } = (await tomas.get(`/api${talkAddress(place)}`)).body as Talk;
    const { text, files } = messages.at(-1)!;
    expect(text).toMatch(/^See this\.\n\n\[“setup\.exe” was not taken: /);
    expect(files.map(({ file }) => file)).toEqual(["Plän.txt"]);
    expect(String((await tomas.get(`/api/talk-files/${files[0]!.id}`)).body)).toBe("depths");
  });

  it("is not taken of nobody: notes of absence end here", async () => {
    const to = await asked();
    expect(await send(to, { headers: { "Auto-Submitted": "auto-replied" }, text: "I am away." })).toBe(250);
    expect(await texts()).toHaveLength(1);
  });

  it("is read as HTML where there is no text, and its marks are words", async () => {
    const to = await asked();
    expect(await send(to, { text: undefined, html: "<p>Fine &amp; <b>well</b></p><script>x()</script>" })).toBe(250);
    expect((await texts()).at(-1)).toBe("Ann: Fine & well");
  });

  it("is tried again while the database is away: nothing is stored, and nothing lost", async () => {
    const to = await asked();
    const query = jest.spyOn(world.database, "createQueryRunner").mockImplementation(() => {
      throw new Error("the database is away");
    });
    expect(await send(to)).toBe(451);
    query.mockRestore();
    expect(await send(to)).toBe(250);
    expect(await texts()).toHaveLength(2);
  });
});

describe("what is written in a mail", () => {
  it.each([
    ["Yes.\n\n> was asked", "Yes."],
    ["Yes.\nNo.\n\nAm 01.12.2026 um 10:00 schrieb Chronometra <a@b>:\n> x", "Yes.\nNo."],
    ["Yes.\n\n-- \nAnn\nHarbour office", "Yes."],
    ["Above\n--- write your answer above this line ---\nbelow", "Above"],
    ["", ""],
  ])("%j is %j", (mail, text) => expect(writtenIn(mail)).toBe(text));
});
