import { pino } from "pino";
import { writeFileSync } from "node:fs";
import request from "supertest";
import { openDatabase } from "../start/openDatabase.ts";
import { createApp } from "../start/app.ts";
import { TOKEN_HEADER } from "../access/serve.ts";
import { tokenOf, type Caller } from "../testing/testWorld.ts";
import { everyAnswer } from "../testing/everyAnswer.ts";
import { carryProject } from "../testing/carryProject.ts";
const server = process.env["CHRONOMETRA_TEST_DATABASE"]!;
async function callerOf(app: never, login: string): Promise<Caller> {
  const agent = request.agent(app);
  const first = await agent.get("/api/session");
  const signedIn = await agent.post("/api/session").set(TOKEN_HEADER, tokenOf(first)).send({ login, password: "saltmarrow" });
  const token = tokenOf(signedIn);
  return { me: signedIn.body, get: (p: string) => agent.get(p), send: (m: "post", p: string, b: object) => agent[m](p).set(TOKEN_HEADER, token).send(b) } as never;
}
it("x", async () => {
  const here = await openDatabase(`${server}/demo1`);
  await here.query("drop database if exists there1"); await here.query("create database there1");
  const there = await openDatabase(`${server}/there1`);
  for (const t of ["account", "programme", "setting", "register_row", "report_layout", "planned_period", "project_field"]) {
    await there.query(`delete from ${t}`);
    await there.query(`insert into there1.${t} select * from demo1.${t}`);
  }
  const a = createApp({ database: here, logger: pino({ level: "silent" }) });
  const b = createApp({ database: there, logger: pino({ level: "error" }) });
  const from = await callerOf(a.app as never, "ines"), to = await callerOf(b.app as never, "ines");
  const rows = await here.query("select id, code, programme_id as programme, manager_id as manager from project order by code") as any[];
  for (const { id, code, programme, manager } of rows) {
    const t = Date.now();
    try { const got = await carryProject(from, to, id, { programme, manager }); console.log(code, got === id, Date.now() - t); }
    catch (e) { console.log(code, String(e).slice(0, 900)); }
  }
  const x = await everyAnswer(a, "ines", "saltmarrow"), y = await everyAnswer(b, "ines", "saltmarrow");
  const out: string[] = [];
  const diff = (p: string, u: any, v: any, n: { n: number }) => {
    if (JSON.stringify(u) === JSON.stringify(v) || n.n > 4) return;
    if (u && v && typeof u === "object" && typeof v === "object") { for (const k of new Set([...Object.keys(u), ...Object.keys(v)])) diff(`${p}.${k}`, u[k], v[k], n); return; }
    n.n++; out.push(`  ${p}: ${JSON.stringify(u)?.slice(0, 150)} | ${JSON.stringify(v)?.slice(0, 150)}`);
  };
  let same = 0;
  for (const [k, u] of x) { if (JSON.stringify(u) === JSON.stringify(y.get(k))) { same++; continue; } out.push(k); diff("", u, y.get(k), { n: 0 }); }
  for (const k of y.keys()) if (!x.has(k)) out.push(`only there ${k}`);
  writeFileSync("/tmp/hand/diff.txt", out.join("\n")); console.log("same", same, "of", x.size);
  a.close(); b.close(); await here.destroy(); await there.destroy();
}, 300000);
