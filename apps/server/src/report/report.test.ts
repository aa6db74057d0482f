import { readFileSync } from "node:fs";
import { join } from "node:path";
import type {
  DraftAspect,
  IssuedReport,
  Portfolio,
  ProjectLook,
  ReportBlock,
  ReportContent,
  ReportDraft,
  Summary,
} from "@chronometra/contract";
import { type Aspect, moneyWords, type PlanBundle, ratioWords } from "@chronometra/core";
import ExcelJS from "exceljs";
import { SMTPServer } from "smtp-server";
import type request from "supertest";
import { close, plain, readPdf } from "../testing/readPdf.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { Post } from "../tell/post.ts";
import { makeReport } from "./makeReport.ts";
import { reportAttached } from "./recipients.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let radu: Caller;
let quill: Caller;
let project: string;
let other: string;
let group: string;
/** Stores a plan and has it approved; gives its project. */
let approved: (bundle?: PlanBundle) => Promise<string>;

const NASTY = '<b>bold</b> & "quoted" =1+1 evil Ærø Žižek Ωμέγα Киев 港口 😀';

let smtp: SMTPServer;
const mails: { to: string[]; text: string }[] = [];

beforeAll(async () => {
  smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS"],
    onData: (stream, session, done) => {
      let text = "";
      stream.on("data", (part: Buffer) => (text += part.toString("latin1")));
      stream.on("end", () => {
        mails.push({ to: session.envelope.rcptTo.map(({ address }) => address), text });
        done();
      });
    },
  });
  const port = await new Promise<number>((resolve) => {
    const { server } = smtp;
    server.listen(0, "127.0.0.1", () => resolve((server.address() as { port: number }).port));
  });
  world = await TestWorld.open({
    mail: {
      smtp: `smtp://127.0.0.1:${port}`,
      domain: "saltmarrow.example",
      address: "https://plans.saltmarrow.example",
      attach: reportAttached,
    },
  });
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
  const margit = await world.caller("margit", ["approver"]);
  approved = async (bundle = smallPlan()): Promise<string> => {
    const id = await world.addProject(tomas.me, bundle);
    const asked = await tomas.send("post", `/api/projects/${id}/approvals`, { word: "" });
    await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "go" });
    return id;
  };
  project = await approved();
  other = await approved(smallPlan({ project: { ...smallPlan().project, code: "OTHER", name: "Jetty" } }));
  group = (await ines.send("post", "/api/programmes", { name: "Harbour", parent: null })).body.id as string;
  for (const id of [project, other]) await ines.send("put", `/api/projects/${id}/standing`, { programme: group });
  await world.openPeriod(1, "2026-03-02", "2026-03-06");
}, 60_000);
afterAll(async () => {
  await world.drop();
  await new Promise<void>((resolve) => smtp.close(resolve));
});

const draft = async (of = project, who = tomas): Promise<ReportDraft> =>
  (await who.get(`/api/status-reports/${of}`)).body as ReportDraft;
const aspect = async (name: Aspect, of = project): Promise<DraftAspect> =>
  (await draft(of)).aspects.find((each) => each.aspect === name)!;
const preview = async (of = project): Promise<ReportContent> =>
  (await tomas.get(`/api/status-reports/${of}/preview`)).body as ReportContent;
const issued = async (number: number, edition: number | "newest" = "newest", of = project): Promise<IssuedReport> =>
  (await tomas.get(`/api/status-reports/${of}/${number}/${edition}`)).body as IssuedReport;
const say = (name: Aspect, said: object, who = tomas, of = project) =>
  who.send("put", `/api/status-reports/${of}/said/${name}`, { rating: null, reason: "", text: null, ...said });
const look = async (): Promise<ProjectLook> => (await tomas.get(`/api/projects/${project}`)).body as ProjectLook;
const change = async (...changes: object[]) =>
  tomas.send("post", `/api/projects/${project}/changes`, { revision: (await look()).revision, changes });

type Figures = Extract<ReportBlock, { is: "figures" }>["items"];
const figuresIn = (content: ReportContent): Figures =>
  content.parts.flatMap(({ blocks }) => blocks).flatMap((block) => (block.is === "figures" ? block.items : []));

const file = async (path: string): Promise<Buffer> =>
  (await tomas.get(`/api/status-reports/${path}`).buffer(true).parse(binary)).body as Buffer;
const binary = (response: request.Response, done: (error: Error | null, body: Buffer) => void): void => {
  const parts: Buffer[] = [];
  response.on("data", (part: Buffer) => parts.push(part));
  response.on("end", () => done(null, Buffer.concat(parts)));
};

describe("a period's report while it is made", () => {
  it("cannot be issued before the data date is the period's, and says so", async () => {
    expect((await draft()).hindrance).toMatch(/data date is not set; move it to 6 Mar 2026/);
    await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-06" });
    const { hindrance, mayIssue, period } = await draft();
    expect([hindrance, mayIssue, period?.number]).toEqual([null, true, 1]);
  });

  it("suggests a rating on each side by the limits, and begins with sentences that say what the pages say", async () => {
    const { aspects } = await draft();
    const { summary } = await look();
    const schedule = aspects.find((each) => each.aspect === "schedule")!;
    expect([schedule.suggested, schedule.rating]).toEqual(["trouble", null]);
    expect(schedule.rules.join()).toContain(`SPI ${ratioWords(summary.figures!.spi)} is below 0.9`);
    expect(schedule.begun).toContain(`SPI ${ratioWords(summary.figures!.spi)}`);
    const cost = aspects.find((each) => each.aspect === "cost")!;
    expect(plain(cost.begun)).toContain(plain(`earned ${moneyWords(summary.figures!.ev, summary.minorDigits)} EUR`));
    expect(aspects.find((each) => each.aspect === "overall")!.suggested).toBe("trouble");
  });

  it("keeps what is said, and refuses what was written over something newer", async () => {
    expect((await say("cost", { version: 0, text: "All invoices are in." })).status).toBe(200);
    expect(await aspect("cost")).toMatchObject({ version: 1, text: "All invoices are in.", by: "Tomas" });
    const late = await say("cost", { version: 0, text: "Mine" }, ines);
    expect([late.status, late.body.message]).toEqual([409, expect.stringMatching(/^Tomas wrote on "Cost" meanwhile/)]);
    expect((await aspect("cost")).text).toBe("All invoices are in.");
    // Of two who begin on a side at the same moment one is told.
    const both = await Promise.all([tomas, ines].map((who) => say("risks", { version: 0, text: who.me.name }, who)));
    expect(both.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    const kept = both[0]!.status === 200 ? "Tomas" : "Ines";
    expect([(await aspect("risks")).version, (await aspect("risks")).text]).toEqual([1, kept]);
    expect((await say("cost", { version: 1, text: NASTY }, ines)).status).toBe(200);
  });

  it("is written by its manager and by controllers alone", async () => {
    expect((await say("risks", { version: 0, text: "x" }, radu)).status).toBe(403);
    expect((await say("risks", { version: 0, text: "x" }, quill)).status).toBe(403);
    expect((await quill.send("post", `/api/status-reports/${project}`)).status).toBe(403);
    expect((await radu.send("post", `/api/status-reports/${project}`)).status).toBe(403);
    expect((await tomas.send("post", `/api/status-reports/${group}`)).status).toBe(403);
    expect((await draft(project, quill)).mayEdit).toBe(false);
  });

  it("a rating that differs from what the limits suggest needs a reason before it is issued", async () => {
    await say("schedule", { version: 0, rating: "care" });
    const refused = await tomas.send("post", `/api/status-reports/${project}`);
    expect([refused.status, refused.body.message]).toEqual([
      422,
      "Say why the rating of Schedule differs from what the limits suggest.",
    ]);
    expect((await draft()).reports).toEqual([]);
    await say("schedule", { version: 1, rating: "care", reason: "The crane comes on Monday." });
    await say("overall", { version: 0, rating: null, text: "It will be caught up." });
  });

  it("is not issued of a plan that has changed since it was put together", async () => {
    const made = await makeReport(new Post({}))(world.database, tomas.me, project);
    await change({ type: "setName", activity: "pour", name: "Pour slab" });
    const { writeProject } = await import("../plan/writeProjects.ts");
    const stored = writeProject(world.database, tomas.me, project, (writing) =>
      made.store(writing, { edition: 1, at: new Date() }),
    );
    expect(await stored).toBe(false);
    const again = await makeReport(new Post({}))(world.database, tomas.me, project);
    await say("people", { version: 0, text: "Ann is back." });
    const late = writeProject(world.database, tomas.me, project, (writing) =>
      again.store(writing, { edition: 1, at: new Date() }),
    );
    expect(await late).toBe(false);
    expect((await draft()).reports).toEqual([]);
  });
});

describe("who gets a report", () => {
  const put = (body: object, who = tomas) => who.send("put", `/api/status-reports/${project}/recipients`, body);

  it("is said by its manager: people who may look, and addresses", async () => {
    const ann = await world.addAccount("ann", ["contributor"], "ann");
    const blind = await put({ add: { accounts: [ann.id] } });
    expect([blind.status, blind.body.message]).toEqual([422, expect.stringMatching(/^Ann may not look into this/)]);
    expect((await put({ add: { addresses: ["nobody"] } })).body.message).toMatch(/name@example\.org/);
    expect((await put({ add: { accounts: ["nobody"] } })).status).toBe(422);
    expect((await put({ remove: {} }, radu)).status).toBe(403);
    const board = { addresses: ["Board@Town.example"] };
    // Several who name others at once do not undo each other; whoever is named twice is named once.
    const all = await Promise.all([
      put({ add: { accounts: [quill.me.id] } }),
      put({ add: { accounts: [quill.me.id] } }, ines),
      put({ add: board }, ines),
      put({ add: { ...board, accounts: [ines.me.id] } }),
    ]);
    expect(all.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
    expect((await put({ remove: { accounts: [ines.me.id] } })).status).toBe(200);
    const { body } = await quill.get(`/api/status-reports/${project}/recipients`);
    expect(body).toMatchObject({
      mayEdit: false,
      accounts: [{ id: quill.me.id, name: "Quill" }],
      addresses: ["board@town.example"],
    });
    expect(body.choices).not.toContainEqual(expect.objectContaining({ name: "Ann" }));
  });
});

describe("a report that is issued", () => {
  let asShown: ReportContent;
  let summary: Summary;

  it("says word for word what was shown, with a digest; and the portfolio tells what its manager said", async () => {
    // What was told of approvals before.
    await world.app.deliver();
    asShown = await preview();
    ({ summary } = await look());
    expect((await tomas.send("post", `/api/status-reports/${project}`)).status).toBe(200);
    const report = await issued(1);
    expect(report.content).toEqual(asShown);
    expect([report.whole, report.line.holds, report.line.digest.length]).toEqual([true, true, 64]);
    const again = await tomas.send("post", `/api/status-reports/${project}`);
    expect([again.status, again.body.message]).toEqual([409, expect.stringMatching(/has been issued/)]);
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    expect(projects.find(({ id }) => id === project)!.says).toMatchObject({
      rating: "trouble",
      note: "It will be caught up.",
    });
    expect((await say("cost", { version: 2, text: "too late" })).status).toBe(409);
  });

  it("is sent once to whoever is to have it, with the PDF; the link into the application to those who can sign in", async () => {
    expect(await world.app.deliver()).toBe(2);
    expect(await world.app.deliver()).toBe(0);
    const [own, outside] = ["quill@saltmarrow.example", "board@town.example"].map((address) =>
      mails.find(({ to }) => to.includes(address)),
    );
    for (const mail of [own, outside]) {
      expect(mail!.text).toContain("Content-Type: application/pdf");
      expect(mail!.text).toMatch(/filename="?T-\w+-report-1\.pdf/);
      const base64 =
        /Content-Transfer-Encoding: base64\r\nContent-Disposition: attachment[^\r]*\r\n\r\n([\w+/=\r\n]+)/.exec(
          mail!.text,
        )?.[1];
      expect(
        Buffer.from(base64 ?? "", "base64")
          .subarray(0, 5)
          .toString(),
      ).toBe("%PDF-");
    }
    const link = `https://plans.saltmarrow.example/projects/${project}/report/1`;
    // Long lines are folded on their way (RFC 2045, 6.7).
    const unfolded = ({ text }: { text: string }): string => text.replaceAll("=\r\n", "");
    expect([unfolded(own!).includes(link), unfolded(outside!).includes(link)]).toEqual([true, false]);
    expect((await quill.get("/api/mail")).body).toMatchObject([{ link: `/projects/${project}/report/1?edition=1` }]);
  }, 60_000);

  it("has the figures that the pages and the bundle's analysis had at that moment", async () => {
    const said = new Map(figuresIn(asShown).map(({ name, value }) => [name, value]));
    const { figures, minorDigits } = summary;
    for (const [name, minor] of [
      ["Budget at completion, EUR", figures!.bac],
      ["Planned value, EUR", figures!.pv],
      ["Earned value, EUR", figures!.ev],
      ["Actual cost, EUR", figures!.ac],
    ] as const)
      expect([name, said.get(name)]).toEqual([
        name,
        { text: moneyWords(minor, minorDigits), value: minor / 10 ** minorDigits },
      ]);
    expect(said.get("Finish")!.value).toBe(summary.finish);
    expect(said.get("SPI")!.text).toBe(ratioWords(figures!.spi));
    expect(said.get("Finished activities")!.text).toBe(`${summary.done} of ${summary.activities}`);
  });

  it("reads the same on paper, by another program: every figure, rating and text, A4 and Letter, with page numbers", async () => {
    for (const [paper, width, height] of [
      ["A4", 595, 842],
      ["letter", 612, 792],
    ] as const) {
      const pdf = readPdf(await file(`${project}/1/newest/pdf?paper=${paper}`));
      expect([Math.round(pdf.pages[0]!.width), Math.round(pdf.pages[0]!.height)]).toEqual([width, height]);
      const text = close(pdf.text);
      for (const { name, value, change: moved } of figuresIn(asShown))
        for (const words of [name, value.text, moved]) expect(text).toContain(close(words));
      for (const { blocks } of asShown.parts)
        for (const block of blocks) {
          if (block.is === "table")
            for (const { cells } of block.rows) for (const cell of cells) expect(text).toContain(close(cell.text));
          if (block.is === "said" && block.aspect !== "cost")
            for (const words of [block.words, block.text, block.why]) expect(text).toContain(close(words));
        }
      // Markup and formulas are text; what would turn the direction of the line is left out, what no font has is spelled.
      expect(text).toContain(close(NASTY.replace("😀", "[U+1F600]")));
      pdf.pages.forEach(({ text: page }, i) => expect(plain(page)).toContain(`${i + 1} of ${pdf.pages.length}`));
      expect(pdf.title).toContain("report 1, 6 Mar 2026");
      const { digest } = (await issued(1)).line;
      expect(plain(pdf.pages[0]!.text)).toMatch(/edition 1, issued by Tomas, \d/);
      expect(plain(pdf.pages[0]!.text)).toContain(`digest ${digest.slice(0, 12)}`);
    }
    expect((await tomas.get(`/api/status-reports/${project}/1/newest/pdf?paper=A0`)).status).toBe(422);
    expect((await tomas.get(`/api/status-reports/${project}/1/newest/doc`)).status).toBe(404);
  }, 60_000);

  it("and in a workbook, where numbers are numbers, dates dates, and formulas text", async () => {
    const book = new ExcelJS.Workbook();
    await book.xlsx.load((await file(`${project}/1/newest/xlsx`)) as never);
    const cells = new Map<string, unknown>();
    const all: unknown[] = [];
    book.getWorksheet("Report")!.eachRow((row) => {
      const values = (row.values as unknown[]).slice(1);
      all.push(...values);
      if (typeof values[0] === "string" && !cells.has(values[0])) cells.set(values[0], values[1]);
    });
    expect(cells.get("Earned value, EUR")).toBe(summary.figures!.ev / 10 ** summary.minorDigits);
    expect((cells.get("Finish") as Date).toISOString().slice(0, 10)).toBe(summary.finish);
    expect(all.some((cell) => typeof cell === "string" && cell.includes('<b>bold</b> & "quoted" =1+1 evil'))).toBe(
      true,
    );
    expect(all.every((cell) => typeof cell !== "object" || cell instanceof Date || cell === undefined)).toBe(true);
  });

  it("stays as it was whatever becomes of the plan; opened again it is withdrawn, and issued anew as another edition", async () => {
    await change(
      { type: "setName", activity: "dig", name: "Dredge" },
      { type: "setProject", set: { name: "Renamed" } },
      { type: "setDuration", activity: "pour", minutes: 9600 },
    );
    await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-06" });
    const kept = await issued(1);
    expect(kept.content).toEqual(asShown);
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "enough" })).status).toBe(200);
    expect((await ines.send("post", `/api/projects/${project}/reopen`, { reason: "an invoice came" })).status).toBe(
      200,
    );
    expect((await draft()).reports).toMatchObject([{ edition: 1, holds: false, reopened: "an invoice came" }]);
    await say("cost", { version: 2, text: "One more invoice." });
    expect((await tomas.send("post", `/api/status-reports/${project}`)).status).toBe(200);
    const { reports } = await draft();
    expect(reports.map(({ edition, holds }) => [edition, holds])).toEqual([
      [2, true],
      [1, false],
    ]);
    expect((await issued(1, 1)).content).toEqual(asShown);
    const anew = await issued(1);
    expect([anew.line.edition, anew.content.title, anew.editions.length]).toEqual([2, "Renamed", 2]);
  });

  it("is written once; a text that is not the one with its digest is told as such", async () => {
    await expect(world.database.query("update issued_report set digest = ''")).rejects.toThrow(/written once/);
    await expect(world.database.query("delete from issued_report")).rejects.toThrow(/written once/);
    await world.database.query(
      "insert into issued_report select ?, 0, edition, data_date, issued_by, issued_at, replace(content, 'Slipway', 'Slipper'), digest from issued_report where subject_id = ? and number = 1 and edition = 1",
      [other, project],
    );
    expect([(await issued(0, 1, other)).whole, (await issued(1, 1)).whole]).toEqual([false, true]);
  });

  it("the next one tells what changed since, why the finish moved, and what was said last", async () => {
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "enough" })).status).toBe(200);
    await ines.send("post", "/api/periods", { dataDate: "2026-03-13", issueBy: "2026-03-16T12:00", anyway: true });
    await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-13" });
    const now = await preview();
    const finish = figuresIn(now).find(({ name }) => name === "Finish")!;
    const was = (await issued(1)).content;
    expect(finish.change).toBe(`was ${figuresIn(was).find(({ name }) => name === "Finish")!.value.text}`);
    expect((await aspect("schedule")).begun).toMatch(/it moved .* later since period 1/);
    const why = now.parts.find(({ id }) => id === "drift")!.blocks;
    expect(JSON.stringify(why)).toMatch(/Since period 1 the finish moved from/);
    expect((await aspect("cost")).last).toEqual({ rating: "well", text: "One more invoice." });
    expect((await aspect("cost")).text).toBeNull();
  });
});

describe("reports of groups", () => {
  it("are laid out by the nearest group that says so", async () => {
    const ids = async (of = project): Promise<string[]> => (await preview(of)).parts.map(({ id }) => id);
    expect((await ids()).length).toBeGreaterThan(8);
    const put = (of: string, sections: string[] | null, who = ines) =>
      who.send("put", `/api/status-reports/${of}/layout`, { sections });
    expect((await put("house", ["ratings", "figures"])).status).toBe(200);
    expect(await ids()).toEqual(["ratings", "figures"]);
    expect((await put(group, ["figures", "trust", "ratings"])).status).toBe(200);
    expect(await ids()).toEqual(["figures", "trust", "ratings"]);
    expect((await tomas.get(`/api/status-reports/${project}/layout`)).body.from).toBe("Harbour");
    expect((await put(group, [])).status).toBe(422);
    expect((await put(project, ["figures"])).status).toBe(422);
    expect((await put(group, ["figures"], tomas)).status).toBe(403);
    await put(group, null);
    expect(await ids()).toEqual(["ratings", "figures"]);
    await put("house", null);
  });

  it("gather what their projects issued, the worst first to be seen, and are frozen like them", async () => {
    const early = await ines.send("post", `/api/status-reports/${group}`);
    expect([early.status, early.body.message]).toEqual([422, expect.stringMatching(/None of its projects has issued/)]);
    expect((await tomas.send("post", `/api/status-reports/${project}`)).status).toBe(200);
    const { aspects } = await draft(group, ines);
    expect(aspects.find((each) => each.aspect === "overall")!.begun).toMatch(
      /1 project without a report of this period: OTHER/,
    );
    expect((await ines.send("post", `/api/status-reports/${group}`)).status).toBe(200);
    const { content } = await issued(2, 1, group);
    const own = (await issued(2)).content;
    expect(content.parts.slice(0, 4).map(({ id }) => id)).toEqual(["glance", "news", "said", "sums"]);
    // Of one project the sums are its own figures, and its parts stand as they were issued.
    const [sums, ...projects] = [content.parts.slice(0, 4), content.parts.slice(4)].map((parts) =>
      figuresIn({ ...content, parts }).map(({ name, value }) => [name, value] as const),
    );
    const ownFigures = figuresIn(own).map(({ name, value }) => [name, value] as const);
    expect(projects[0]).toEqual(ownFigures);
    expect(ownFigures).toEqual(expect.arrayContaining([...sums!]));
    expect(sums!.length).toBe(8);
    expect(JSON.stringify(content.parts[0])).toContain("no report");
    // Another group's parts may be fewer, and stand in another order; the one that was issued stays.
    const groupParts = async () => (await preview(group)).parts.map(({ id }) => id);
    const put = (groupSections: string[]) =>
      ines.send("put", `/api/status-reports/${group}/layout`, { sections: ["figures"], groupSections });
    expect((await put(["projects", "sums", "glance"])).status).toBe(200);
    const [name, ...rest] = await groupParts();
    expect(name).toMatch(/-name$/);
    expect(rest.slice(-2)).toEqual(["sums", "glance"]);
    expect((await ines.get(`/api/status-reports/${group}/layout`)).body).toEqual({
      sections: ["figures"],
      groupSections: ["projects", "sums", "glance"],
      from: "own",
    });
    expect((await put([])).status).toBe(422);
    expect((await put(["glance", "secret"])).status).toBe(422);
    expect((await ines.send("put", `/api/status-reports/${group}/layout`, { sections: null })).status).toBe(200);
    expect((await groupParts()).slice(0, 4)).toEqual(["glance", "news", "said", "sums"]);
    const again = await ines.send("post", `/api/status-reports/${group}`);
    expect([again.status, again.body.message]).toEqual([409, expect.stringMatching(/nothing in it has changed/)]);
    await tomas.send("post", `/api/status-reports/${other}`);
    expect((await ines.send("post", `/api/status-reports/${group}`)).status).toBe(200);
    expect((await draft(group, ines)).reports.map(({ edition, holds }) => [edition, holds])).toEqual([
      [2, true],
      [1, false],
    ]);
    const both = (await issued(2, "newest", group)).content;
    expect(close(readPdf(await file(`${group}/2/1/pdf`)).text)).toContain(close("replaced by a later edition"));
    const { projects: lines } = (await ines.get("/api/portfolio")).body as Portfolio;
    const summed = (key: "ev" | "bac"): number =>
      lines
        .filter(({ id }) => id === project || id === other)
        .reduce((sum, { summary: { figures } }) => sum + figures![key], 0) / 100;
    const together = new Map(
      figuresIn({ ...both, parts: both.parts.filter(({ id }) => id === "sums") }).map((item) => [item.name, item]),
    );
    expect(together.get("Budget at completion, EUR")!.value.value).toBe(summed("bac"));
    expect(together.get("Earned value, EUR")!.value.value).toBe(summed("ev"));
    const curve = both.parts.find(({ id }) => id === "sums")!.blocks[1];
    expect(curve).toMatchObject({ is: "curve", currency: "EUR" });
    const pdf = readPdf(await file(`${group}/2/newest/pdf`));
    expect(plain(pdf.text)).toContain("Contents");
    expect(close(pdf.text)).toContain("OTHERJetty");
  }, 60_000);

  it("of several currencies are summed at the rate of their day, and say which one is missing", async () => {
    const bundle = smallPlan({ project: { ...smallPlan().project, code: "YEN", currency: "JPY", minorDigits: 0 } });
    const yen = await approved(bundle);
    await ines.send("put", `/api/projects/${yen}/standing`, { programme: group });
    await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-13" });
    expect((await tomas.send("post", `/api/status-reports/${yen}`)).status).toBe(200);
    const sums = async () => (await preview(group)).parts.find(({ id }) => id === "sums")!;
    expect(JSON.stringify(await sums())).toMatch(/no exchange rate of .*JPY/);
    const rates = [{ currency: "JPY", from: "2026-01-01", rate: 0.01 }];
    expect(
      (await ines.send("put", "/api/portfolio/exchange", { exchange: { currency: "EUR", minorDigits: 2, rates } }))
        .status,
    ).toBe(200);
    const budget = figuresIn({ ...(await preview(group)), parts: [await sums()] })[0]!;
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    const of = (id: string): number => projects.find((each) => each.id === id)!.summary.figures!.bac;
    expect(budget.value.value).toBe((of(project) + of(other)) / 100 + of(yen) / 100);
  });

  it("are listed with their projects, each with its newest", async () => {
    const { body } = await quill.get("/api/status-reports");
    expect(body).toMatchObject([
      { id: "house", level: 0, issued: null, projects: [] },
      {
        id: group,
        name: "Harbour",
        level: 1,
        issued: 2,
        projects: expect.arrayContaining([
          expect.objectContaining({ id: other, issued: 2 }),
          expect.objectContaining({ id: project, issued: 2 }),
        ]),
      },
    ]);
    expect((await quill.get("/api/status-reports/nowhere")).status).toBe(404);
    expect((await quill.get(`/api/status-reports/${project}/x/newest`)).status).toBe(404);
    expect((await quill.get(`/api/status-reports/${project}/77/newest`)).status).toBe(404);
  });
});

describe("reports of every version of this software", () => {
  it("of periods that were issued before reports were kept tell the figures that were frozen", async () => {
    await world.database.query(
      "insert into issued_period (project_id, number, edition, data_date, revision, issued_by, issued_at, summary) select project_id, 903, 1, data_date, revision, issued_by, issued_at, summary from issued_period where project_id = ? and number = 1 and edition = 1",
      [project],
    );
    const former = await issued(903);
    const first = (await issued(1, 1)).content;
    const amounts = (content: ReportContent): unknown =>
      figuresIn(content)
        .filter(({ name }) => name.endsWith(", EUR"))
        .map(({ name, value }) => [name, value]);
    expect(amounts(former.content)).toEqual(amounts(first));
    expect([former.line.digest, former.content.parts[0]!.title]).toEqual(["", "Issued before reports were kept"]);
    expect((await draft()).reports[0]!.number).toBe(903);
  });

  const kept = readFileSync(join(import.meta.dirname, "fixtures/report-format-1.json"), "utf8");

  it("are read and printed as they were issued", async () => {
    const content = JSON.parse(kept) as ReportContent;
    await world.database.query(
      "insert into issued_report (subject_id, number, edition, data_date, issued_by, issued_at, content, digest) values (?, 900, 1, '2025-12-31', ?, now(), ?, sha2(?, 256))",
      [project, tomas.me.id, kept, kept],
    );
    const report = await issued(900);
    expect(report.content).toEqual(content);
    expect(report.whole).toBe(true);
    const text = close(readPdf(await file(`${project}/900/newest/pdf`)).text);
    for (const { title } of content.parts) expect(text).toContain(close(title));
    for (const { value } of figuresIn(content)) expect(text).toContain(close(value.text));
  });
});
