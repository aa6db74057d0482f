import { dateWords } from "../../words/dateWords.ts";
import type { Activity } from "../schema.ts";

type Wish = NonNullable<Activity["wish"]>;

/** Each kind of date wish as it is said and typed. */
export const WISHES: Readonly<Record<Wish["type"], string>> = {
  startNotBefore: "not before",
  startNotAfter: "start by",
  startOn: "start on",
  finishNotBefore: "finish not before",
  finishNotAfter: "finish by",
  finishOn: "finish on",
};

/** "not before 4 May 2026: crane is there"; empty without a wish. */
export const wishText = (wish: Wish | null): string =>
  wish === null
    ? ""
    : `${WISHES[wish.type]} ${dateWords(wish.date)}${wish.reason === undefined ? "" : `: ${wish.reason}`}`;
