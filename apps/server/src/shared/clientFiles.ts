import { existsSync, readFileSync } from "node:fs";
import type { ServerResponse } from "node:http";
import { join } from "node:path";
import type { Express, NextFunction, Request, Response } from "express";
import compressed from "express-static-gzip";
import { Failure } from "./failure.ts";

/** What the bundler says of each file: by its source, what it became and what it needs. */
type Manifest = Readonly<Record<string, { readonly file: string; readonly imports?: readonly string[] }>>;

interface Beginning {
  readonly sources: readonly string[];
  /** What the page asks for first, by whoever is signed in. */
  readonly calls: readonly string[];
}

/** Pages that people begin with, by their address. */
const BEGINNINGS: Readonly<Record<string, Beginning>> = {
  "/": {
    sources: ["src/portfolio/PortfolioFrame.tsx", "src/portfolio/PortfolioPage.tsx"],
    calls: ["/api/portfolio", "/api/period"],
  },
  "/desk": { sources: ["src/collect/DeskPage.tsx"], calls: ["/api/desk", "/api/period"] },
};

/** All files that a source needs, itself included. */
function filesOf(manifest: Manifest, source: string, found = new Set<string>()): Set<string> {
  const entry = manifest[source];
  if (entry === undefined || found.has(entry.file)) return found;
  found.add(entry.file);
  for (const needed of entry.imports ?? []) filesOf(manifest, needed, found);
  return found;
}

/** What runs the pages, once the first bar is painted, and what shows the way in to whoever is not signed in. */
const PAGES = "src/main.tsx";
const WAY_IN = "src/access/first.tsx";

/**
 * Gives the header by which the browser fetches what a page needs beside what it begins with, by the page's address and whether
 * someone seems to be signed in; empty where nothing is to be fetched.
 */
function pageHints(folder: string): (address: string, signedIn: boolean) => string {
  const path = join(folder, ".vite", "manifest.json");
  if (!existsSync(path)) return () => "";
  const manifest = JSON.parse(readFileSync(path, "utf8")) as Manifest;
  const always = filesOf(manifest, "index.html");
  const filesBeside = (sources: readonly string[]): string[] => {
    const files = new Set(sources.flatMap((source) => [...filesOf(manifest, source)]));
    return [...files].filter((file) => !always.has(file)).map((file) => `</${file}>; rel=modulepreload`);
  };
  const wayIn = filesBeside([WAY_IN]).join(", ");
  const others = filesBeside([PAGES]);
  const begun = new Map(
    Object.entries(BEGINNINGS).map(([address, { sources, calls }]) => [
      address,
      {
        files: filesBeside([PAGES, ...sources]),
        calls: calls.map((call) => `<${call}>; rel=preload; as=fetch; crossorigin`),
      },
    ]),
  );
  return (address, signedIn) => {
    if (!signedIn) return wayIn;
    const { files, calls } = begun.get(address) ?? { files: others, calls: [] };
    return [...calls, ...files].join(", ");
  };
}

/** Serves the pages of the client and their files. */
export function serveClient(app: Express, folder: string): void {
  const hints = pageHints(folder);
  const forEver = (response: ServerResponse, path: string): void => {
    if (/[\\/]assets[\\/]/.test(path)) response.setHeader("Cache-Control", "public, max-age=31536000, immutable");
  };
  app.use(
    compressed(folder, {
      enableBrotli: true,
      orderPreference: ["br", "gzip"],
      index: false,
      serveStatic: { setHeaders: forEver },
    }),
  );
  // Any other path is a page of the client; a file that is not there is not one.
  app.get("/{*splat}", (request: Request, response: Response, next: NextFunction) => {
    if (/\.[a-z0-9]+$/i.test(request.path) || request.path.startsWith("/assets/"))
      return next(new Failure("notFound", "There is no such file; load the page again."));
    const hint = hints(request.path, /(^|;\s*)chronometra=/.test(request.headers.cookie ?? ""));
    if (hint !== "") response.setHeader("Link", hint);
    response.sendFile(join(folder, "index.html"), { headers: { "Cache-Control": "no-cache" } });
  });
}
