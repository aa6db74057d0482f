import type { BroughtList, Matters, NewMatter, ResponseOf } from "@chronometra/contract";
import { Workbook } from "@cj-tech-master/excelts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller, tomas: Caller, radu: Caller, quill: Caller;
let project: string, other: string;
let code: string, otherCode: string;

const read = (who: Caller, file: string | Buffer, query = "", name = "list.csv") =>
  who.send("post", `/api/matters/read?${query}`).attach("file", Buffer.from(file), name);
const lines = async (who: Caller, file: string, query = ""): Promise<BroughtList["lines"]> =>
  ((await read(who, file, query)).body as BroughtList).lines;
const faults = async (who: Caller, file: string, query = ""): Promise<string[]> =>
  (await lines(who, file, query)).map((line) => line.faults.join("; "));
const registers = async (who = ines): Promise<Matters["matters"]> =>
  ((await who.get("/api/matters?all=1")).body as Matters).matters;
const codeOf = async (id: string): Promise<string> =>
  (await world.database.query("select code from project where id = ?", [id]))[0].code;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
  await world.caller("ann", ["contributor"], "ann");
  project = await world.addProject(tomas.me, smallPlan());
  other = await world.addProject(radu.me, smallPlan());
  [code, otherCode] = [await codeOf(project), await codeOf(other)];
});
afterAll(() => world.drop());
beforeEach(async () => {
  for (const table of ["matter", "notice"]) await world.database.query(`delete from ${table}`);
});

describe("a list", () => {
  it("is understood by its headings, as people write them, and stores nothing", async () => {
    const file = `Type;Subject;Project;Responsible;Due date;Status;Severity;Likelihood;Mitigation
Action;Order the pump;${code};Ann;24.11.2026;done;;;
Risk;Flood;${code} anything;"tomas";;open;grave;30%;accept

issue;Crane is late;;;;;2;;"Ask the yard, daily"
`;
    const { body } = await read(ines, file, `project=${project}`);
    expect((body as BroughtList).headings.map(({ column }) => column)).toEqual([
      ...["kind", "title", "place", "owner", "due", "state", "severity", "chance", "response"],
    ]);
    const [pump, flood, crane] = (body as BroughtList).lines;
    expect(pump).toMatchObject({ row: 2, faults: [], isThere: false });
    expect(pump!.matter).toMatchObject({ kind: "action", project, due: "2026-11-24", state: "settled", chance: null });
    expect(flood).toMatchObject({
      row: 3,
      matter: { kind: "risk", chance: 0.3, severity: "grave", strategy: "accept" },
    });
    expect(flood!.matter).toMatchObject({ owner: tomas.me.id, response: "" });
    expect(crane).toMatchObject({
      row: 5,
      matter: { kind: "issue", severity: "noticed", response: "Ask the yard, daily" },
    });
    expect(await registers()).toEqual([]);
    // What stands there in any case of letters, a plan’s risk among it, is known by its name and place.
    const risk = { kind: "risk", project, group: null, title: "FLOOD", chance: 0.1 };
    const added = (await ines.send("post", "/api/matters/list", { matters: [pump!.matter, risk] }))
      .body as ResponseOf<"POST /api/matters/list">;
    expect((await lines(ines, file, `project=${project}`)).map(({ isThere }) => isThere)).toEqual([true, true, false]);
    await ines.send("post", `/api/projects/${project}/undo`, { revision: added.revisions[0]!.revision });
  });

  it("tells all that is wrong with each line, by its row", async () => {
    const file = `kind,what,of,owner,due,severity,probability,state
riks,,${code},Nobody,soon,awful,,
risk,Flood,elsewhere,,,,130%,maybe
action,${"x".repeat(201)},${otherCode},,,,,
`;
    const [first, second, third] = await faults(tomas, file);
    for (const part of [
      /does not say what/,
      /“riks” is none of/,
      /“Nobody” is nobody/,
      /no date/,
      /“awful” is no step/,
    ])
      expect(first).toMatch(part);
    for (const part of [/“elsewhere” is no code/, /not between 0 and 100/, /“maybe” is neither/])
      expect(second).toMatch(part);
    // Another's project is not his to add to.
    expect(third).toMatch(/more than 200 characters; Of: /);
    expect(await faults(ines, "what,owner\nFlood,\n")).toEqual([
      expect.stringMatching(/in which register.*where it belongs/),
    ]);
    expect(await faults(ines, `what,of,kind\nFlood,${code},risk\n`)).toEqual(["a risk needs a probability"]);
  });

  it("asks in which order dates are, takes columns as they are said, and knows what stands there", async () => {
    const file = `Thing,Wanted,Of\nPump,03/04/2027,${code}\nPump,05/06/2027,${code}\n`;
    const first = (await read(ines, file, "kind=action")).body as BroughtList;
    expect([first.asksDateOrder, first.lines[0]!.faults]).toEqual([true, [expect.stringContaining("what it is")]]);
    const columns = encodeURIComponent(JSON.stringify({ Thing: "title", Wanted: "due" }));
    expect((await faults(ines, file, `kind=action&columns=${columns}`))[0]).toMatch(/more than one order/);
    const said = await lines(ines, file, `kind=action&columns=${columns}&dateOrder=dmy`);
    expect(said.map(({ matter, isThere }) => [matter?.due, isThere])).toEqual([
      ["2027-04-03", false],
      ["2027-06-05", true],
    ]);
    expect((await read(ines, file, "columns=x")).status).toBe(422);
    expect((await read(ines, file, "kind=wish")).status).toBe(422);
  });

  it("may be a workbook with dates and shares, of which own fields are columns", async () => {
    const settings = ((await ines.get("/api/matters")).body as Matters).settings;
    // Called as people else call a description: the field's own name comes first.
    const field = { id: "src", name: "Background", type: "choice", choices: ["walk", "review"] } as const;
    const value = { ...settings, fields: { risk: [field] } };
    expect((await ines.send("put", "/api/matters/settings", { was: settings, value })).status).toBe(200);
    const book = new Workbook();
    const sheet = book.addWorksheet("Risks");
    sheet.addRow(["What", "Probability", "Due", "Background"]);
    sheet.addRow(["Flood", 0.25, new Date(Date.UTC(2027, 2, 1)), "walk"]);
    sheet.addRow(["Frost", 0.5, null, "dinner"]);
    const bytes = Buffer.from(await book.xlsx.writeBuffer());
    const { lines: both } = (await read(ines, bytes, `kind=risk&project=${project}`, "risks.xlsx")).body as BroughtList;
    expect(both[0]!.matter).toMatchObject({ chance: 0.25, due: "2027-03-01", values: { src: "walk" } });
    expect(both[1]!.faults.join()).toMatch(/Background: “dinner” must be one of "walk", "review"/);
    await ines.send("put", "/api/matters/settings", { was: value, value: settings });
  });

  it("is refused where it is no list, too long, or whoever brings it only reads", async () => {
    expect((await read(ines, "nothing")).status).toBe(422);
    expect((await read(ines, Buffer.from([0x50, 0x4b, 1, 2]), "", "broken.xlsx")).status).toBe(422);
    const long = `what,kind\n${"a,action\n".repeat(1001)}`;
    expect((await read(ines, long)).body.message).toMatch(/1001 rows; at most 1000/);
    expect((await read(quill, "what,kind\na,action\n")).status).toBe(403);
    expect((await ines.send("post", "/api/matters/read")).status).toBe(422);
  });
});

describe("a list that is added", () => {
  const matters = (): NewMatter[] => [
    { kind: "action", project, group: null, title: "Order the pump", owner: tomas.me.id, state: "settled" },
    { kind: "risk", project, group: null, title: "Flood", chance: 0.3, severity: "grave" },
    { kind: "risk", project, group: null, title: "Frost", chance: 0.1 },
    { kind: "lesson", project: other, group: null, title: "Measure twice", response: "Always" },
    { kind: "decision", project: null, group: null, title: "One crane for all" },
  ];
  const revision = async (): Promise<number> =>
    (await world.database.query("select revision from project where id = ?", [project]))[0].revision;

  it("is there whole, its risks in the plan as one list of changes, and is taken back whole", async () => {
    const before = await revision();
    const { status, body } = await ines.send("post", "/api/matters/list", { matters: matters() });
    expect([status, body.ids.length, body.revisions]).toEqual([200, 5, [{ project, revision: before + 1 }]]);
    const there = await registers();
    expect(there.map(({ title, state, chance }) => [title, state, chance]).sort()).toEqual([
      ["Flood", "open", 0.3],
      ["Frost", "open", 0.1],
      ["Measure twice", "open", null],
      ["One crane for all", "open", null],
      ["Order the pump", "settled", null],
    ]);
    expect(there.find(({ title }) => title === "Measure twice")!.response).toBe("Always");
    const undo = { params: { project }, revision: before + 1 };
    expect((await ines.send("post", `/api/projects/${project}/undo`, { revision: undo.revision })).status).toBe(200);
    // Of the list a manager may take back what is of his project alone: nothing is taken then.
    expect((await tomas.send("delete", "/api/matters/list", { ids: body.ids })).status).toBe(403);
    expect(await registers()).toHaveLength(3);
    for (const _twice of [1, 2])
      expect((await ines.send("delete", "/api/matters/list", { ids: body.ids })).status).toBe(200);
    expect(await registers()).toEqual([]);
  });

  it("is refused whole where one of it cannot be, and says which", async () => {
    const [pump, , , lesson, decision] = matters() as [NewMatter, NewMatter, NewMatter, NewMatter, NewMatter];
    const wrong: [Caller, NewMatter, number, RegExp][] = [
      [ines, { ...lesson, severity: "nowhere" }, 422, /no such step/],
      [ines, { ...lesson, chance: 0.2 }, 422, /“Measure twice”: Only a risk/],
      [ines, { ...matters()[1]!, state: "settled" }, 422, /“Flood”: A project’s risk begins/],
      [tomas, lesson, 403, /./],
      [tomas, decision, 403, /controllers/],
    ];
    for (const [who, one, status, words] of wrong) {
      const answer = await who.send("post", "/api/matters/list", { matters: [pump, one] });
      expect([answer.status, answer.body.message]).toEqual([status, expect.stringMatching(words)]);
    }
    expect(await registers()).toEqual([]);
  });
});
