// Reads a PDF with another program than the one that wrote it: prints the text of its pages as JSON.
import { readFileSync } from "node:fs";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";

const file = await getDocument({ data: new Uint8Array(readFileSync(process.argv[2])), verbosity: 0 }).promise;
const pages = [];
for (let number = 1; number <= file.numPages; number++) {
  const page = await file.getPage(number);
  const { items } = await page.getTextContent();
  const [, , width, height] = page.view;
  pages.push({ width, height, text: items.map(({ str, hasEOL }) => str + (hasEOL ? "\n" : "")).join("") });
}
const { info } = await file.getMetadata();
process.stdout.write(JSON.stringify({ title: info.Title, pages }));
