import { createHash, randomBytes } from "node:crypto";
import { once } from "node:events";
import { request as httpRequest } from "node:http";
import type { AddressInfo } from "node:net";
import { LARGEST_FILE, type Desk, type ProjectDocument, type ProjectDocuments } from "@chronometra/contract";
import express from "express";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { receiveFile, sweepParts } from "./fileParts.ts";

let world: TestWorld;
let ines: Caller, tomas: Caller, radu: Caller, quill: Caller, ann: Caller, bo: Caller;
let project: string, elsewhere: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
  project = await world.addProject(tomas.me, smallPlan());
  elsewhere = await world.addProject(radu.me, smallPlan());
});
afterAll(() => world.drop());

const PNG = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);
const base = (of = project) => `/api/projects/${of}`;
const put = (name: string, bytes: Buffer, to = "about=project", who = tomas, of = project) =>
  who.send("post", `${base(of)}/files?${to}`).attach("file", bytes, name);
const list = async (who = tomas): Promise<ProjectDocuments> =>
  (await who.get(`${base()}/documents`)).body as ProjectDocuments;
const names = async (who = tomas): Promise<string[]> => (await list(who)).documents.map(({ name }) => name);
const fetched = (who: Caller, { id }: { id: string }, number: number, query = "") =>
  who
    .get(`${base()}/documents/${id}/${number}${query}`)
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on("data", (part: Buffer) => parts.push(part));
      response.on("end", () => done(null, Buffer.concat(parts)));
    });
const partsLeft = async (): Promise<number> =>
  Number((await world.database.query("select count(distinct content_id) as count from document_part"))[0].count);

describe("a file", () => {
  it("comes back as it came, byte by byte, in as many parts as it takes", async () => {
    const bytes = randomBytes(1_700_000);
    const { status, body } = await put("Møller.bin", bytes);
    const document = body as ProjectDocument;
    expect([status, document.name, document.versions]).toEqual([
      200,
      "Møller.bin",
      [
        {
          number: 1,
          file: "Møller.bin",
          type: "application/octet-stream",
          size: 1_700_000,
          by: "Tomas",
          at: expect.any(String),
        },
      ],
    ]);
    const back = await fetched(quill, document, 1);
    expect(
      createHash("sha256")
        .update(back.body as Buffer)
        .digest("hex"),
    ).toBe(createHash("sha256").update(bytes).digest("hex"));
    expect(back.headers["content-disposition"]).toMatch(/^attachment; .*filename\*=UTF-8''M%C3%B8ller\.bin/);
    const [{ count }] = await world.database.query("select count(*) as count from document_part");
    expect(Number(count)).toBe(4);
  });

  it("has versions, each as it was", async () => {
    const { id } = (await put("minutes.txt", Buffer.from("first"))).body as ProjectDocument;
    await put("minutes 2.txt", Buffer.from("second"), `document=${id}`, ines);
    const now = (await list()).documents.find((each) => each.id === id)!;
    expect(now.versions.map(({ number, file, by }) => [number, file, by])).toEqual([
      [2, "minutes 2.txt", "Ines"],
      [1, "minutes.txt", "Tomas"],
    ]);
    expect(String((await fetched(tomas, now, 1)).body)).toBe("first");
    expect(String((await fetched(tomas, now, 2)).body)).toBe("second");
    expect((await fetched(tomas, now, 3)).status).toBe(404);
    const both = await Promise.all(
      [1, 2].map((n) => put(`at once ${n}.txt`, Buffer.from(String(n)), `document=${id}`)),
    );
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    expect((await list()).documents.find((each) => each.id === id)!.versions.map(({ number }) => number)).toEqual([
      4, 3, 2, 1,
    ]);
  });

  it("is known by its content: shown where that runs nothing, saved to disk otherwise, whatever it is called", async () => {
    const page = (await put("page.html", Buffer.from("<!doctype html><script>alert(1)</script>")))
      .body as ProjectDocument;
    const picture = (await put("plan.png", PNG)).body as ProjectDocument;
    expect([page.versions[0]!.type, picture.versions[0]!.type]).toEqual(["text/plain", "image/png"]);
    const shown = await fetched(quill, picture, 1, "?show");
    expect(shown.headers).toMatchObject({
      "content-type": "image/png",
      "content-disposition": expect.stringMatching(/^inline/),
      "x-content-type-options": "nosniff",
      "content-security-policy": expect.stringContaining("default-src 'none'"),
    });
    expect((await fetched(quill, page, 1, "?show")).headers["content-type"]).toBe("text/plain; charset=utf-8");
    const svg = (await put("a.svg", Buffer.from('<?xml version="1.0"?><svg onload="alert(1)"/>')))
      .body as ProjectDocument;
    const drawn = await fetched(quill, svg, 1, "?show");
    expect([drawn.headers["content-type"], drawn.headers["content-disposition"]]).toEqual([
      "application/octet-stream",
      expect.stringMatching(/^attachment/),
    ]);
    const again = await quill
      .get(`${base()}/documents/${picture.id}/1?show`)
      .set("If-None-Match", shown.headers["etag"]!);
    expect(again.status).toBe(304);
  });

  it("is refused, and nothing of it stays, where it is too large, empty, a program, or not what it is called", async () => {
    const before = await partsLeft();
    const said = async (name: string, bytes: Buffer, to?: string) => {
      const { status, body } = await put(name, bytes, to);
      return [status, (body as { message: string }).message];
    };
    expect(await said("large.bin", Buffer.alloc(LARGEST_FILE + 1, 1))).toEqual([
      413,
      expect.stringMatching(/at most 25 MB/),
    ]);
    expect(await said("larger.bin", Buffer.alloc(LARGEST_FILE + 200_000, 1))).toEqual([
      413,
      expect.stringMatching(/at most 25 MB/),
    ]);
    expect(await said("nothing.txt", Buffer.alloc(0))).toEqual([422, expect.stringMatching(/“nothing.txt” is empty/)]);
    const program = Buffer.concat([Buffer.from("MZ"), Buffer.alloc(200)]);
    expect(await said("tool.txt", program)).toEqual([422, expect.stringMatching(/is a program/)]);
    expect(await said("plan.pdf", PNG)).toEqual([
      422,
      expect.stringMatching(/called like application\/pdf, .* is image\/png/),
    ]);
    expect(await said("a.txt", Buffer.from("a"), "about=activity&aboutId=gone")).toEqual([
      404,
      expect.stringMatching(/activity that it is to be of is not there any more/),
    ]);
    expect(await said("a.txt", Buffer.from("a"), "about=moon")).toEqual([
      422,
      expect.stringMatching(/^Say what it is about/),
    ]);
    expect(await partsLeft()).toBe(before);
    expect((await put("whole.bin", Buffer.alloc(LARGEST_FILE, 1))).status).toBe(200);
  });
});

it("what is given up on its way leaves nothing, and keeps nobody else waiting", async () => {
  const before = await partsLeft();
  const app = express().post("/", async (call, answer) => {
    answer.json((await receiveFile(world.database, call, answer)).size);
  });
  const server = app.listen(0, "127.0.0.1");
  await once(server, "listening");
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  const until = async (holds: (parts: number) => boolean): Promise<void> => {
    while (!holds(await partsLeft())) await new Promise((resolve) => setTimeout(resolve, 5));
  };
  const givenUp = async (): Promise<void> => {
    const sending = httpRequest(url, {
      method: "POST",
      headers: { "content-type": "multipart/form-data; boundary=line" },
    }).on("error", () => undefined);
    sending.write('--line\r\ncontent-disposition: form-data; name="file"; filename="large.bin"\r\n\r\n');
    sending.write(Buffer.alloc(1_000_000, 1));
    await until((parts) => parts > before);
    sending.destroy();
    await until((parts) => parts === before);
  };
  // More than may be under way at once.
  for (let i = 0; i < 9; i++) await givenUp();
  const form = new FormData();
  form.set("file", new Blob(["small"]), "small.txt");
  expect(await (await fetch(url, { method: "POST", body: form })).json()).toBe(5);
  server.closeAllConnections();
  server.close();
});

it("bytes that became no version, as of a server that was stopped, are taken away after a while", async () => {
  const before = await partsLeft();
  const part = (content_id: string, at: Date) =>
    world.database.query("insert into document_part values (?, 0, ?, 'x')", [content_id, at]);
  await part("forsaken", new Date("2020-01-01"));
  await part("on-its-way", new Date());
  await sweepParts(world.database);
  expect(await partsLeft()).toBe(before + 1);
});

describe("documents", () => {
  it("are links too, which lead to the web alone", async () => {
    const link = (name: string, to: string, who = tomas) =>
      who.send("post", `${base()}/documents`, { about: "project", aboutId: "", name, link: to });
    expect((await link("Permit", "https://example.org/permit")).body).toMatchObject({
      link: "https://example.org/permit",
    });
    const bad = await link("Bad", "javascript:alert(1)");
    expect([bad.status, bad.body.message]).toEqual([422, expect.stringMatching(/begins with https/)]);
    const { id } = (await list()).documents.find(({ name }) => name === "Permit")!;
    expect((await put("v.txt", Buffer.from("v"), `document=${id}`)).body.message).toMatch(/A link has no versions/);
  });

  it("are renamed, taken away and brought back", async () => {
    const { id } = (await put("draft.txt", Buffer.from("draft"))).body as ProjectDocument;
    const change = (body: object, who = tomas) => who.send("put", `${base()}/documents/${id}`, body);
    expect((await change({ name: "Method" })).status).toBe(200);
    expect(await names()).toContain("Method");
    await change({ removed: true });
    expect(await names()).not.toContain("Method");
    expect((await fetched(tomas, { id }, 1)).status).toBe(404);
    await change({ removed: false });
    expect(String((await fetched(tomas, { id }, 1)).body)).toBe("draft");
    expect((await change({ name: "Mine" }, quill)).status).toBe(403);
  });

  it("are put by those who may change the project, and seen by whoever looks; others see those of their own work", async () => {
    expect((await put("dig.txt", Buffer.from("dig"), "about=activity&aboutId=dig")).status).toBe(200);
    for (const who of [quill, radu, ann])
      expect((await put("no.txt", Buffer.from("no"), undefined, who)).status).toBe(403);
    expect((await list(quill)).mayEdit).toBe(false);
    expect(await names(ann)).toEqual(["dig.txt"]);
    expect(await names(bo)).toEqual([]);
    const { documents } = await list();
    const [dig, other] = [
      documents.find(({ name }) => name === "dig.txt")!,
      documents.find(({ name }) => name === "whole.bin")!,
    ];
    expect((await fetched(ann, dig, 1)).status).toBe(200);
    expect([(await fetched(bo, dig, 1)).status, (await fetched(ann, other, 1)).status]).toEqual([404, 404]);
    const note = { description: "Dig to the clay", priority: "high", checks: [{ id: "a", text: "Permit in hand" }] };
    const { revision } = (await tomas.get(`${base()}/plan`)).body as { revision: number };
    const changes = [{ type: "addRow", table: "notes", key: "dig", row: note }];
    expect((await tomas.send("post", `${base()}/changes`, { revision, changes })).status).toBe(200);
    const onDesk = async (who: Caller) =>
      ((await who.get("/api/desk")).body as Desk).activities.filter((each) => each.project === project);
    expect(await onDesk(ann)).toMatchObject([{ activity: "dig", note, documents: 1 }]);
    expect(await onDesk(bo)).toMatchObject([{ activity: "pour", note: null, documents: 0 }]);
    // Not by way of another project.
    expect((await ines.get(`${base(elsewhere)}/documents/${dig.id}/1`)).status).toBe(404);
    expect((await put("x.txt", Buffer.from("x"), `document=${dig.id}`, radu, elsewhere)).status).toBe(404);
  });

  it("are not put to a closed project, and stay readable there", async () => {
    await world.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(), 'done')",
      [project, ines.me.id],
    );
    const late = await put("late.txt", Buffer.from("late"));
    expect([late.status, (late.body as { message: string }).message]).toEqual([
      422,
      expect.stringMatching(/is closed/),
    ]);
    expect(await names(quill)).toContain("Method");
    expect((await list()).mayEdit).toBe(false);
  });
});
