import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import express, { type Express, type NextFunction, type Request, type Response } from "express";
import { Failure } from "./failure.ts";

/** What the bundler says of each file: by its source, what it became and what it needs. */
type Manifest = Readonly<Record<string, { readonly file: string; readonly imports?: readonly string[] }>>;

/** Pages that people begin with, by their address. */
const BEGINNINGS: Readonly<Record<string, readonly string[]>> = {
  "/": ["src/portfolio/PortfolioFrame.tsx", "src/portfolio/PortfolioPage.tsx"],
  "/desk": ["src/collect/DeskPage.tsx"],
};

/** All files that a source needs, itself included. */
function filesOf(manifest: Manifest, source: string, found = new Set<string>()): Set<string> {
  const entry = manifest[source];
  if (entry === undefined || found.has(entry.file)) return found;
  found.add(entry.file);
  for (const needed of entry.imports ?? []) filesOf(manifest, needed, found);
  return found;
}

/** What runs the pages, once the first bar is painted. */
const EVERYWHERE = "src/main.tsx";

interface PageHints {
  readonly of: ReadonlyMap<string, string>;
  readonly otherwise: string;
}

/**
 * Headers by which the browser fetches what a page needs beside what it begins with: for each page that people begin with, and
 * for every other.
 */
export function pageHints(folder: string): PageHints {
  const path = join(folder, ".vite", "manifest.json");
  if (!existsSync(path)) return { of: new Map(), otherwise: "" };
  const manifest = JSON.parse(readFileSync(path, "utf8")) as Manifest;
  const always = filesOf(manifest, "index.html");
  const hint = (sources: readonly string[]): string => {
    const files = new Set([EVERYWHERE, ...sources].flatMap((source) => [...filesOf(manifest, source)]));
    return [...files]
      .filter((file) => !always.has(file))
      .map((file) => `</${file}>; rel=modulepreload`)
      .join(", ");
  };
  return { of: new Map(Object.entries(BEGINNINGS).map(([address, sources]) => [address, hint(sources)])), otherwise: hint([]) };
}

/** Serves the pages of the client and their files. */
export function serveClient(app: Express, folder: string): void {
  const hints = pageHints(folder);
  const forEver = (response: express.Response, path: string): void => {
    if (/[\\/]assets[\\/]/.test(path)) response.setHeader("Cache-Control", "public, max-age=31536000, immutable");
  };
  app.use(express.static(folder, { index: false, setHeaders: forEver }));
  // Any other path is a page of the client; a file that is not there is not one.
  app.get("/{*splat}", (request: Request, response: Response, next: NextFunction) => {
    if (/\.[a-z0-9]+$/i.test(request.path) || request.path.startsWith("/assets/"))
      return next(new Failure("notFound", "There is no such file; load the page again."));
    const hint = hints.of.get(request.path) ?? hints.otherwise;
    if (hint !== "") response.setHeader("Link", hint);
    response.sendFile(join(folder, "index.html"), { headers: { "Cache-Control": "no-cache" } });
  });
}
