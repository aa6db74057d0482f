import { endpoints, type EndpointKey, type Groups, type Portfolio } from "@chronometra/contract";
import request from "supertest";
import { ACCESS, type Access } from "../access/accessTable.ts";
import { TOKEN_HEADER } from "../access/serve.ts";
import type { App } from "../start/app.ts";

/** Streams, what nobody in particular asks for, and a workbook, which bears the moment in which it is written. */
const NOT_PAGES = new Set<string>([
  ...["GET /api/news", "GET /api/session", "GET /api/openapi.json"],
  "GET /api/status-reports/:of/:number/:edition/:form",
]);

const isPage = (key: EndpointKey): boolean => {
  const access: Access = ACCESS[key];
  const isForPeople = access !== "anyone" && !(typeof access === "object" && "token" in access);
  return key.startsWith("GET ") && isForPeople && !NOT_PAGES.has(key) && !key.includes(":import");
};

/** What stands for parts of addresses that name nothing of their own. */
const PARTS: Readonly<Record<string, string>> = {
  ":from/:to/:target": "1/plan/:milestone",
  ":place/:from/:to": "PT/2026-01-01/2026-12-31",
  ":from/:to": "1/plan",
  ":from/:weeks": "2026-11-02/8",
  ":person/:monday": "tomas/2026-11-02",
  ":of/:number/:edition": ":of/9/newest",
  ":number": "1",
  ":form": "json",
  ":by": "person",
  ":state": "1",
  ":since": "1",
  ":revision": "2",
  ":days": "5",
  ":date": "2026-11-20",
  ":subject": "calendar",
};

type Get = (path: string) => Promise<{ status: number; body: unknown; text?: string }>;

/** Ids of a kind of things, of those that the answer to a call lists. */
async function idsIn(get: Get, path: string): Promise<string[]> {
  const { body } = await get(path);
  const found = new Set<string>();
  const look = (value: unknown): void => {
    if (value === null || typeof value !== "object") return;
    const { id } = value as { id?: unknown };
    if (typeof id === "string") found.add(id);
    for (const each of Object.values(value)) look(each);
  };
  look(body);
  return [...found];
}

/** The addresses that a call has, for the things that there are. */
async function addressesOf(key: EndpointKey, get: Get, named: Readonly<Record<string, string[]>>): Promise<string[]> {
  const path = Object.entries(PARTS).reduce((address, [part, value]) => address.replace(part, value), key.slice(4));
  const name = /:(\w+)/.exec(path)?.[1];
  if (name === undefined) return [path];
  const first = named[name] ?? [];
  const all: string[] = [];
  for (const id of first) {
    const filled = path.replace(`:${name}`, id);
    const second = /:(\w+)/.exec(filled)?.[1];
    if (second === undefined) all.push(filled);
    else for (const other of await secondOf(second, id, get)) all.push(filled.replace(`:${second}`, other));
  }
  return all;
}

/** What a part within a project can be. */
async function secondOf(name: string, project: string, get: Get): Promise<string[]> {
  const lists: Readonly<Record<string, string>> = {
    milestone: "milestones",
    activity: "milestones",
    box: "boxes",
    document: "documents",
  };
  const ids = lists[name] === undefined ? [] : await idsIn(get, `/api/projects/${project}/${lists[name]}`);
  // Of documents the first version.
  // One of each kind in each project.
  return ids
    .slice(0, 1)
    .map((id) => (name === "document" ? `${id}/1` : id))
    .map((part) => part.replace("/1/:version", "/1"));
}

/**
 * The answers to every call that pages are made of, as someone is given them: of each project and group, and of the
 * things in them; by address.
 * @param wanted leaves the other addresses unasked
 */
export async function everyAnswer(
  { app }: App,
  login: string,
  password: string,
  wanted: (address: string) => boolean = () => true,
): Promise<Map<string, unknown>> {
  const agent = request.agent(app);
  const first = (await agent.get("/api/session")).body as { token: string };
  const signedIn = await agent.post("/api/session").set(TOKEN_HEADER, first.token).send({ login, password });
  if (signedIn.status !== 200) throw new Error(`${login} could not sign in: ${signedIn.text}`);
  const get: Get = (path) => agent.get(path);
  const portfolio = (await get("/api/portfolio")).body as Partial<Portfolio>;
  const groups = ((await get("/api/programmes")).body as Partial<Groups>).groups ?? [];
  const project = (portfolio.projects ?? []).map(({ id }) => id);
  const programme = [...groups.map(({ id }) => id), "house"];
  const whatif = (await Promise.all(project.map((id) => idsIn(get, `/api/projects/${id}/whatifs`)))).flat();
  const named = {
    project,
    programme,
    whatif,
    of: [...project, ...programme],
    matter: await idsIn(get, "/api/matters"),
  };
  const answers = new Map<string, unknown>();
  for (const key of (Object.keys(endpoints) as EndpointKey[]).filter(isPage))
    for (const address of (await addressesOf(key, get, named)).filter(wanted)) {
      const { status, body, text } = await get(address);
      answers.set(address, [status, Object.keys(body as object).length > 0 ? body : text]);
    }
  return answers;
}
