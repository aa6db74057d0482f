import { NOTICE_KINDS, NOTICE_WORDS, type NoticeKind } from "@chronometra/contract";

/** What is told, as far as its words go. */
export interface Told {
  readonly kind: NoticeKind;
  readonly subject: string;
  readonly body: string;
  readonly link: string | null;
}

/** A message in words. */
export interface Words {
  readonly subject: string;
  readonly body: string;
  readonly link: string | null;
}

/** With so few, each is told whole. */
const MOST_WHOLE = 5;
/** Lines of a kind; the others are counted, and stand in the inbox. */
const MOST_LINES = 12;

function linesOf(told: readonly Told[], isWhole: boolean): string {
  if (isWhole) return told.map(({ subject, body }) => `${subject}\n${body}`).join("\n\n");
  const lines = told.slice(0, MOST_LINES).map(({ subject }) => `- ${subject}`);
  const more = told.length - lines.length;
  return [...lines, ...(more === 0 ? [] : [`- and ${more} more, in your inbox`])].join("\n");
}

/** One message of one thing, or of several by what they are: what is asked first, long lists cut and counted. */
export function digestOf(told: readonly Told[]): Words {
  const [only] = told;
  if (told.length === 1) return { subject: only!.subject, body: only!.body, link: only!.link };
  const kinds = NOTICE_KINDS.flatMap((kind) => {
    const own = told.filter((each) => each.kind === kind);
    return own.length === 0 ? [] : [{ heading: NOTICE_WORDS[kind][0], own }];
  });
  const counts = kinds.map(({ heading, own }) => `${heading.toLowerCase()} ${own.length}`).join(", ");
  return {
    subject: `${told.length} things to know: ${counts}`,
    body: kinds
      .map(({ heading, own }) => `${heading.toUpperCase()} (${own.length})\n${linesOf(own, told.length <= MOST_WHOLE)}`)
      .join("\n\n"),
    link: "/inbox",
  };
}
