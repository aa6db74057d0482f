const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign]!);

/** A message as plain text, with the page it is about. */
export const asText = (body: string, link: string | null): string => (link === null ? body : `${body}\n\n${link}`);

/** A message as HTML: its paragraphs and lines, nothing else. */
export function asHtml(body: string, link: string | null): string {
  const paragraphs = body.split(/\n{2,}/).map((words) => `<p>${escaped(words).replaceAll("\n", "<br>")}</p>`);
  const page = link === null ? "" : `<p><a href="${escaped(link)}">${escaped(link)}</a></p>`;
  return `<!doctype html><html lang="en"><body style="font-family: sans-serif">${paragraphs.join("")}${page}</body></html>`;
}
