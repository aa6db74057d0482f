import { createHash, randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { ImportView, ProjectDocuments, ProjectRecord } from "@chronometra/contract";
import type { PlanFile } from "@chronometra/core";
import { Ajv2020 } from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import { bringFile } from "../testing/carryProject.ts";
import request from "supertest";
import { smallPlan, TestWorld, tokenOf, type Caller } from "../testing/testWorld.ts";

type Whole = Omit<PlanFile, "record"> & { record: ProjectRecord };

let here: TestWorld;
let there: TestWorld;
let ines: Caller, zoe: Caller, tom: Caller;
let project: string;
let file: Whole;
const bytes = Buffer.from("%PDF-1.4 soundings of the sill\n\u0000\u0001 end");

/** Stores a file in the other installation; gives the answer to storing it. */
async function stored(who: Caller, content: unknown, code?: string): Promise<{ status: number; body: unknown }> {
  let view = await bringFile(who, JSON.stringify(content));
  if (code !== undefined)
    view = (await who.send("put", `/api/imports/${view.id}`, { project: { code } })).body as ImportView;
  return who.send("post", `/api/imports/${view.id}/store`, {});
}
const understood = (who: Caller, content: unknown): Promise<ImportView> => bringFile(who, JSON.stringify(content));
const noticesIn = ({ problems }: ImportView): string[] =>
  problems.flatMap(({ level, message }) => (level === "notice" ? [message] : []));
const errorsIn = ({ problems }: ImportView): string[] =>
  problems.flatMap(({ level, row, field, message }) => (level === "error" ? [`${row} ${field}: ${message}`] : []));
const digestOf = (text: string): string => createHash("sha256").update(text).digest("hex");

/** A project in which something of every kind happened. */
async function lived(): Promise<string> {
  const ok = async <T>(call: Promise<{ status: number; body: unknown }>): Promise<T> => {
    const { status, body } = await call;
    expect([status, body]).toEqual([200, expect.anything()]);
    return body as T;
  };
  ines = await here.caller("ines", ["controller"]);
  const margit = await here.caller("margit", ["approver"]);
  await here.openPeriod(1, "2026-03-01", "2026-03-04");
  const base = smallPlan();
  const id = await here.addProject(ines.me, {
    ...base,
    project: { ...base.project, code: "K-1", dataDate: "2026-03-04" },
  });
  const at = `/api/projects/${id}`;
  const risk = { id: "mud", name: "Mud", probability: 0.25, effects: [] };
  const changes = [
    { type: "addRow", table: "risks", key: "mud", row: risk },
    { type: "addRow", table: "blocks", key: "dig", row: { by: "crane", since: "2026-03-03", saidBy: "Ann" } },
  ];
  await ok(ines.send("post", `${at}/changes`, { revision: 1, changes }));
  const cycle = { kind: "Renewal", stages: [{ id: "idea", name: "Idea", gate: "Go", conditions: [] }] };
  await ok(ines.send("put", "/api/life-cycles/renewal", { was: null, value: cycle }));
  await ok(ines.send("put", `${at}/gates`, { field: "lifeCycle", was: null, value: "renewal" }));
  await ok(ines.send("post", `${at}/gates/idea`, { word: "it is time" }));
  const asked = await ok<{ id: string }>(ines.send("post", `${at}/approvals`, { word: "as agreed" }));
  await ok(margit.send("post", `/api/approvals/${asked.id}/decision`, { decision: "approve", reason: "go" }));
  const whatIf = await ok<{ id: string }>(ines.send("post", `${at}/whatifs`, { name: "Night work" }));
  expect(whatIf.id).toBeTruthy();
  await ok(
    ines.send("post", `${at}/reserves`, { kind: "contingency", amountMinor: 900_719_925_474, reason: "set aside" }),
  );
  const matter = await ok<{ matter: { id: string } }>(
    ines.send("post", "/api/matters", { kind: "issue", project: id, group: null, title: "Crane", owner: margit.me.id }),
  );
  await ok(ines.send("post", `${at}/files?about=project`).attach("file", bytes, "sill.pdf"));
  await ok(
    ines.send("post", "/api/talk", {
      place: { about: "matter", project: "", aboutId: matter.matter.id },
      text: "@Margit look",
    }),
  );
  await ok(
    ines.send("put", `/api/status-reports/${id}/said/overall`, {
      version: 0,
      rating: "care",
      reason: "mud",
      text: null,
    }),
  );
  await ok(ines.send("post", `/api/status-reports/${id}`, {}));
  return id;
}

beforeAll(async () => {
  here = await TestWorld.open();
  there = await TestWorld.open();
  project = await lived();
  zoe = await there.caller("zoe", ["controller"]);
  tom = await there.caller("tom", ["projectManager"]);
  file = JSON.parse((await ines.get(`/api/projects/${project}/export/json`)).text) as Whole;
}, 60_000);
afterAll(async () => {
  await here.drop();
  await there.drop();
});

const countThere = async (): Promise<number[]> => {
  const tables = [
    "project",
    "account",
    "life_cycle",
    "reporting_period",
    "document_part",
    "house_change",
    "change_list",
  ];
  const rows = await Promise.all(tables.map((table) => there.database.query(`select count(*) as n from ${table}`)));
  return rows.map(([row]: { n: string }[]) => Number(row!.n));
};

describe("a project with all that it keeps", () => {
  it("leaves as its JSON Schema says, as another validator reads it, and as version 1 on request", async () => {
    const ajv = new Ajv2020({ strict: false, logger: false });
    addFormats.default(ajv);
    const docs = join(__dirname, "../../../../docs");
    const valid = ajv.compile(JSON.parse(readFileSync(join(docs, "plan-bundle-2.schema.json"), "utf8")) as object);
    expect([valid(file), valid.errors]).toEqual([true, null]);
    expect([file.version, file.risks, file.blocks]).toEqual([
      2,
      [expect.objectContaining({ id: "mud" })],
      [expect.objectContaining({ activity: "dig", by: "crane" })],
    ]);
    const first = JSON.parse((await ines.get(`/api/projects/${project}/export/json1`)).text) as object;
    expect([first, Object.keys(first).includes("record")]).toEqual([expect.objectContaining({ version: 1 }), false]);
  });

  it("is looked at before it is stored: what comes, and what it does to the installation", async () => {
    const view = await understood(zoe, file);
    expect(noticesIn(view)).toEqual([
      expect.stringMatching(/^2 people who wrote in it have no account here: Ines, Margit\./),
      expect.stringMatching(/no reporting calendar here yet; that of the file becomes it, with 1 period\./),
      "The life cycle of “Renewal” is added to those of the installation.",
    ]);
    const counts = Object.fromEntries(view.counts.map(({ table, rows }) => [table, rows]));
    expect(counts).toMatchObject({
      risks: 1,
      blocks: 1,
      history: 3,
      matters: 1,
      issuedReports: 1,
      whatIfs: 1,
      talk: 1,
      documents: 1,
    });
    const [projects] = await countThere();
    expect(projects).toBe(0);
  });

  it("brought by a manager, comes as a plan; what came of it elsewhere stays in the file, and that is said", async () => {
    const view = await understood(tom, file);
    expect(noticesIn(view)).toEqual([expect.stringMatching(/where a controller of the whole house brings the file/)]);
    const { body } = await stored(tom, file, "K-0");
    const plan = (await tom.get(`/api/projects/${(body as { project: string }).project}/plan`)).body;
    expect([plan.revision, plan.tables.risks.length, plan.tables.blocks.length]).toEqual([1, 1, 1]);
    expect((await there.database.query("select count(*) as n from account"))[0].n).toBe("2");
  });

  it("comes whole, under its own address, with accounts that nobody can sign in with", async () => {
    expect(await stored(zoe, file)).toMatchObject({ status: 200, body: { project } });
    const pages = ["ledger", "whatifs", "reserves", "history", "talk-counts"];
    for (const page of pages) {
      const [was, is] = await Promise.all([ines, zoe].map((who) => who.get(`/api/projects/${project}/${page}`)));
      expect(was!.status).toBe(200);
      // Whose account it is that looks is another here and there.
      const plain = (text: string): string => text.replaceAll(zoe.me.id, "me").replaceAll("Zoe", "Ines");
      expect([page, plain(is!.text)]).toEqual([page, was!.text]);
    }
    const [report, same] = await Promise.all(
      [ines, zoe].map((who) => who.get(`/api/status-reports/${project}/1/newest`)),
    );
    expect(same!.body.content).toEqual(report!.body.content);
    expect(same!.body.line).toEqual(report!.body.line);
    expect((await zoe.get(`/api/projects/${project}/gates`)).body.asked).toMatchObject({ gate: "Go", by: "Ines" });
    const { documents } = (await zoe.get(`/api/projects/${project}/documents`)).body as ProjectDocuments;
    const [sent] = documents;
    expect(sent).toMatchObject({ name: "sill.pdf", by: "Ines" });
    const [row] = await there.database.query("select bytes from document_part");
    expect(Buffer.compare((row as { bytes: Buffer }).bytes, bytes)).toBe(0);
    const agent = request.agent(there.app.app);
    const token = tokenOf(await agent.get("/api/session"));
    for (const password of ["", "saltmarrow", "undefined"]) {
      const body = { login: "margit", password };
      const { status } = await agent.post("/api/session").set("x-chronometra-token", token).send(body);
      expect([password, [401, 422, 403].includes(status)]).toEqual([password, true]);
    }
    const noted = (await zoe.get("/api/house-history?about=project")).body as { changes: { subject: string }[] };
    expect(noted.changes.map(({ subject }) => subject)).toEqual(["K-1"]);
  });

  it("comes a second time under another code as another project, with ids and links of its own", async () => {
    expect((await stored(zoe, file)).status).toBe(409);
    const accounts = Number((await there.database.query("select count(*) as n from account"))[0].n);
    const { status, body } = await stored(zoe, file, "K-2");
    expect(status).toBe(200);
    const { project: copy } = body as { project: string };
    expect(copy).not.toBe(project);
    const { text } = await zoe.get(`/api/status-reports/${copy}/1/newest`);
    expect([text.includes(`/projects/${copy}`), text.includes(project)]).toEqual([true, false]);
    const [checked] = await there.database.query("select content, digest from issued_report where subject_id = ?", [
      copy,
    ]);
    expect(digestOf((checked as { content: string }).content)).toBe((checked as { digest: string }).digest);
    const ids = await there.database.query("select count(distinct id) as n, count(*) as all_of from what_if");
    expect(ids).toEqual([{ n: "2", all_of: "2" }]);
    // Those who are named have their accounts from the first time.
    expect(Number((await there.database.query("select count(*) as n from account"))[0].n)).toBe(accounts);
  });

  it("never points at bytes that are another project's", async () => {
    const { contentId } = file.record.documentVersions![0]!;
    const others = new Map<string, string>();
    const text = JSON.stringify(file).replace(/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, (id) => {
      if (id === contentId) return id;
      others.set(id, others.get(id) ?? randomUUID());
      return others.get(id)!;
    });
    const strange = JSON.parse(text) as Whole;
    const [report] = strange.record.issuedReports!;
    strange.record.issuedReports = [{ ...report!, digest: digestOf(JSON.stringify(report!.content)) }];
    expect((await stored(zoe, strange, "K-5")).status).toBe(200);
    const [held] = await there.database.query("select count(distinct content_id) as n from document_version");
    expect(held).toEqual({ n: "3" });
  });

  it("meets another that comes in at the same moment: those whom both name get one account each", async () => {
    const named = new Map(file.record.accounts!.map(({ id }) => [id, randomUUID()]));
    const text = [...named].reduce((all, [id, other]) => all.replaceAll(id, other), JSON.stringify(file));
    const twin = JSON.parse(text) as Whole;
    twin.record.accounts = twin.record.accounts!.map((each) => ({ ...each, login: `${each.login}-elsewhere` }));
    const both = await Promise.all(["K-6", "K-7"].map((code) => stored(zoe, twin, code)));
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const [added] = await there.database.query("select count(*) as n from account where login like '%-elsewhere%'");
    expect(added).toEqual({ n: String(named.size) });
  });

  it("goes on from where it was: what is changed next is the next revision, and undone like any other", async () => {
    const at = `/api/projects/${project}`;
    const { revision } = (await zoe.get(`${at}/plan`)).body as { revision: number };
    const changes = [{ type: "setName", activity: "dig", name: "Dredge" }];
    const done = await zoe.send("post", `${at}/changes`, { revision, changes });
    expect(done.body).toMatchObject({ revision: revision + 1 });
    expect((await zoe.send("post", `${at}/undo`, { revision: revision + 1 })).status).toBe(200);
    expect((await zoe.get(`${at}/history`)).body).toHaveLength(revision + 2);
  });
});

describe("periods of a file meet the reporting calendar", () => {
  it("by their data dates; what the calendar does not have stays in the file, and that is said", async () => {
    await there.database.query("delete from reporting_period");
    await there.openPeriod(7, "2026-03-01", "2026-03-04");
    const same = (await stored(zoe, file, "K-3")).body as { project: string };
    expect(await there.database.query("select number from issued_period where project_id = ?", [same.project])).toEqual(
      [{ number: 7 }],
    );
    await there.database.query("delete from reporting_period");
    await there.openPeriod(1, "2026-03-01", "2026-03-06");
    expect(noticesIn(await understood(zoe, file)).join()).toMatch(
      /1 issued period ends on a day that the reporting calendar here does not have \(4 Mar 2026\)/,
    );
    const other = (await stored(zoe, file, "K-4")).body as { project: string };
    expect(
      await there.database.query("select number from issued_period where project_id = ?", [other.project]),
    ).toEqual([]);
    expect((await zoe.get(`/api/projects/${other.project}`)).status).toBe(200);
  });
});

describe("what is wrong with a record is said with its place, and nothing is stored", () => {
  const changed = (change: (record: ProjectRecord) => unknown): Whole => {
    const record = JSON.parse(JSON.stringify(file.record)) as ProjectRecord;
    return { ...file, project: { ...file.project, code: "K-9" }, record: { ...record, ...(change(record) as object) } };
  };
  it.each<[string, (record: ProjectRecord) => unknown, RegExp]>([
    ["an unknown table", () => ({ colours: [] }), /colours/],
    [
      "a field that is none",
      ({ reserves }) => ({ reserves: [{ ...reserves![0], colour: 1 }] }),
      /reserves .*has "colour", which is no field here/,
    ],
    ["an account that is not there", ({ accounts }) => ({ accounts: accounts!.slice(1) }), /is not among accounts/],
    [
      "a revision that is missing",
      ({ history }) => ({ history: history!.slice(1) }),
      /history revision: goes from 1 to/,
    ],
    [
      "a row twice",
      ({ locks: _locks, matters }) => ({ matters: [...matters!, ...matters!] }),
      /matters .* id: stands more than once/,
    ],
    [
      "a baseline that was changed",
      ({ baselines }) => ({ baselines: [{ ...baselines![0]!, content: { ...baselines![0]!.content, links: [] } }] }),
      /baselines 1 content: is not what its digest was made from/,
    ],
    [
      "a report that was changed",
      ({ issuedReports }) => ({
        issuedReports: [{ ...issuedReports![0]!, content: { ...issuedReports![0]!.content, title: "Fine" } }],
      }),
      /issuedReports 1 \/ 1 content: is not what its digest was made from/,
    ],
    [
      "a report whose links lead elsewhere",
      ({ issuedReports }) => {
        const text = JSON.stringify(issuedReports![0]!.content).replace(/"link":"[^"]*"/, '"link":"//evil.example/"');
        return { issuedReports: [{ ...issuedReports![0]!, content: JSON.parse(text), digest: digestOf(text) }] };
      },
      /has a link that leads out of the installation/,
    ],
    [
      "a file whose bytes are others",
      ({ documentParts }) => ({
        documentParts: [{ ...documentParts![0]!, bytes: Buffer.from("others").toString("base64") }],
      }),
      /documentVersions .* digest: is not that of the bytes/,
    ],
    [
      "a message on a document that is not there",
      ({ talk }) => ({
        talkFiles: [
          {
            id: randomUUID(),
            messageId: randomUUID(),
            about: "project",
            aboutId: "",
            accountId: talk![0]!.accountId,
            at: talk![0]!.at,
          },
        ],
      }),
      /is not among talk/,
    ],
    [
      "a moment that is none",
      ({ history }) => ({ history: history!.map((list) => ({ ...list, at: "yesterday" })) }),
      /history 1 at/,
    ],
  ])("%s", async (_what, change, words) => {
    const before = await countThere();
    const view = await understood(zoe, changed(change));
    expect(errorsIn(view).join("\n")).toMatch(words);
    expect([view.storable, (await zoe.send("post", `/api/imports/${view.id}/store`, {})).status]).toEqual([false, 422]);
    expect(await countThere()).toEqual(before);
  });

  it("a program among its files is not taken, and nothing of the project is", async () => {
    const before = await countThere();
    const program = Buffer.concat([Buffer.from("MZ"), Buffer.alloc(200)]);
    const whole = changed(({ documentVersions, documentParts }) => ({
      documentVersions: [
        { ...documentVersions![0]!, size: program.length, digest: createHash("sha256").update(program).digest("hex") },
      ],
      documentParts: [{ ...documentParts![0]!, bytes: program.toString("base64") }],
    }));
    const { status, body } = await stored(zoe, whole);
    expect([status, (body as { message: string }).message]).toEqual([422, expect.stringMatching(/nothing was stored/)]);
    expect(await countThere()).toEqual(before);
  });

  it("a file of a later version says so", async () => {
    expect(errorsIn(await understood(zoe, { ...file, version: 3 }))).toEqual([
      expect.stringMatching(/version: must be 1 or 2/),
    ]);
  });
});
