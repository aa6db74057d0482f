import type { Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import type { Writing } from "../plan/writeProjects.ts";
import { Failure } from "../shared/failure.ts";

/** What is kept of a period besides its figures, made before its project is locked. */
export interface MadeAlongside {
  /** Stores it with the issue. Gives `false` where it was made of something that has changed since. */
  readonly store: (writing: Writing, as: { readonly edition: number; readonly at: Date }) => Promise<boolean>;
}

/** Makes what is kept of the open period besides a project's figures: its report. This room knows nothing of it. */
export type MakeAlongside = (database: DataSource, me: Me, projectId: string) => Promise<MadeAlongside>;

/** What was made ahead is of a state that is over. */
export class Outdated extends Error {}

const MOST_TRIES = 5;

/**
 * Does an act that stores what was made ahead, and makes it anew where something changed in between.
 * @throws {Failure} `busy` where it changes all the time
 */
export async function withAlongside<M, T>(make: () => Promise<M>, act: (made: M) => Promise<T>): Promise<T> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const made = await make();
    try {
      return await act(made);
    } catch (error) {
      if (!(error instanceof Outdated)) throw error;
    }
  }
  throw new Failure("busy");
}
