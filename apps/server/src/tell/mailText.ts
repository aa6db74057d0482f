const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign]!);

/** The line above which an answer stands. */
export const ANSWER_ABOVE = "--- write your answer above this line ---";

/** The words of a message, with where an answer to it belongs if it can be answered. */
export const answerable = ({
  body,
  replyTo,
  thread,
}: {
  body: string;
  replyTo: string | null;
  thread: string | null;
}) => (thread !== null && replyTo?.startsWith("talk+") === true ? `${ANSWER_ABOVE}\n\n${body}` : body);

/** A message as plain text, with the page it is about. */
export const asText = (body: string, link: string | null): string => (link === null ? body : `${body}\n\n${link}`);

/** A message as HTML: its paragraphs and lines, nothing else. */
export function asHtml(body: string, link: string | null): string {
  const paragraphs = body.split(/\n{2,}/).map((words) => `<p>${escaped(words).replaceAll("\n", "<br>")}</p>`);
  const page = link === null ? "" : `<p><a href="${escaped(link)}">${escaped(link)}</a></p>`;
  return `<!doctype html><html lang="en"><body style="font-family: sans-serif">${paragraphs.join("")}${page}</body></html>`;
}
