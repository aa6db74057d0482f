/** @jest-environment node */
import { readdirSync, readFileSync } from "node:fs";
import { join, resolve } from "node:path";
import ts from "typescript";

// One word for one thing: what is retired is said nowhere to people, in the interface, errors, mails and documents.

const ROOT = resolve(process.cwd().replace(/[/\\](apps|packages)[/\\].*$/, ""));
const SOURCES = ["apps/web/src", "apps/server/src", "packages/core/src", "packages/contract/src"];
const NOT_SAID = new Set(["testing", "migrations", "demo"]);

const RETIRED: readonly (readonly [retired: RegExp, say: string])[] = [
  [/(?<!path )\blengths?\b/i, "duration"],
  [/\b(fetching|looking)\b.*…$|\bwork(ing|ed) (it )?out\b/i, "loading, calculating"],
  [/\bticks?\b|\bticked\b|\bchoos(e|es|ing)\b|\bchosen\b/i, "select"],
  [/^(keep|drop)\b/i, "save, discard, withdraw, cancel"],
  [/^take .* (out|off)$|\btak(e|es|en) (\w+ ){0,2}out\b|^take (back|up again)\b/i, "remove, withdraw, restore"],
  [
    /\b(hours?|work|d|h) left\b|\bleft h\b|\bwhat is left\b|\bestimate left\b|^(d )?left\b(?! (to|out|the|empty|join))/i,
    "remaining",
  ],
  [/\bas likely as not\b|\bdearer\b/i, "50 of 100, extra cost"],
  [/^(end it|say so|leave it as it is|not said|comes after)\.?$/i, "revoke, save, cancel, not recorded, predecessors"],
  [
    /\bcost at completion\b|^(percent|says|promised|estimate|length)$/i,
    "EAC, percent done, manager's note, milestone or activity, duration",
  ],
  [/\bnight watch\b/i, "dark"],
  [/\btasks?\b/i, "activity"],
  [/\bmore than (it|they) earns?\b|\bearns more than\b/i, "the work done cost more than its budget"],
];

function filesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) return NOT_SAID.has(entry.name) ? [] : filesIn(join(folder, entry.name));
    return /(?<!\.test)\.tsx?$/.test(entry.name) ? [join(folder, entry.name)] : [];
  });
}

const isClassName = (node: ts.Node): boolean => {
  for (let at: ts.Node | undefined = node; at !== undefined; at = at.parent)
    if (ts.isJsxAttribute(at)) return at.name.getText() === "className";
  return false;
};

/** What a file says to people: texts with a blank in them, that begin with a capital, or that stand on a page or at an end. */
function saidIn(file: string): { words: string; line: number }[] {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  const said: { words: string; line: number }[] = [];
  const visit = (node: ts.Node): void => {
    const isText =
      ts.isStringLiteralLike(node) ||
      ts.isJsxText(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddle(node) ||
      ts.isTemplateTail(node);
    if (isText && !ts.isImportDeclaration(node.parent) && !isClassName(node)) {
      const words = node.text.trim();
      if (
        (/\s|^[A-Z]/.test(words) || ts.isJsxText(node) || ts.isTemplateTail(node)) &&
        !/^(select|insert|update|delete|\()\b/.test(words)
      )
        said.push({ words, line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1 });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return said;
}

it("no retired word is said to people", () => {
  const files = SOURCES.flatMap((folder) => filesIn(join(ROOT, folder)));
  expect(files.length).toBeGreaterThan(400);
  const found = files.flatMap((file) =>
    saidIn(file).flatMap(({ words, line }) =>
      RETIRED.flatMap(([retired, say]) =>
        retired.test(words) ? [`${file.slice(ROOT.length + 1)}:${line} says “${words.slice(0, 80)}”; say ${say}`] : [],
      ),
    ),
  );
  expect(found).toEqual([]);
});
