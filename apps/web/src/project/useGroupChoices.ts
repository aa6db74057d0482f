import { useQuery } from "@tanstack/react-query";
import { holdsEverywhere, holdsIn, useMe } from "../shared/session/session.ts";
import { pathOfProgramme } from "./programmeTree.ts";
import { portfolioQuery } from "./queries.ts";

const PLANNERS = ["controller", "projectManager"] as const;

/** A group as it is chosen; the one without an id stands for none. */
interface GroupChoice {
  readonly id: string;
  readonly words: string;
}

/** The groups into which whoever is signed in may put projects, with what each lies in. */
export function useGroupChoices(): { readonly choices: readonly GroupChoice[]; readonly isEverywhere: boolean } {
  const me = useMe();
  const programmes = useQuery(portfolioQuery).data?.programmes ?? [];
  const isEverywhere = PLANNERS.some((role) => holdsEverywhere(me, role));
  return {
    isEverywhere,
    choices: [
      ...(isEverywhere ? [{ id: "", words: "no group yet" }] : []),
      ...programmes
        .filter(({ id }) => PLANNERS.some((role) => holdsIn(me, role, id)))
        .map(({ id }) => ({ id, words: pathOfProgramme(programmes, id).join(" › ") })),
    ],
  };
}
