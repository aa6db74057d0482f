import { Link } from "react-router";
import { partsOf } from "./words.ts";

/** What somebody said, with its names and links. */
export function Said({ text, named }: { text: string; named: readonly string[] }) {
  return (
    <p className="max-w-prose break-words whitespace-pre-wrap">
      {partsOf(text, named, window.location.origin).map((part, i) => {
        if (part.kind === "words") return part.text;
        if (part.kind === "name")
          return (
            <strong key={i} className="text-accent font-semibold">
              {part.text}
            </strong>
          );
        if (part.kind === "page")
          return (
            <Link key={i} className="underline" to={part.to}>
              {part.text}
            </Link>
          );
        return (
          <a key={i} className="underline" href={part.to} target="_blank" rel="noopener noreferrer">
            {part.text}
          </a>
        );
      })}
    </p>
  );
}
