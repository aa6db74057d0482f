import { wordFor, type Worded } from "@chronometra/contract";
import { useProject } from "./useProject.ts";

/** What the project that a page is about calls states of activities and priorities. */
export function useWord(): (of: Worded) => string {
  const { words } = useProject();
  return (of) => wordFor(words, of);
}
