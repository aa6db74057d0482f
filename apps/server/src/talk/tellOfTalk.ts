import { talkAddress, type Me } from "@chronometra/contract";
import { In, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { everyAccount } from "../access/accounts.ts";
import type { Message, Telling } from "../tell/post.ts";
import { takingPart, talkAbout } from "./following.ts";
import type { Callable } from "./named.ts";
import type { Spoken } from "./spoken.ts";
import { maySee } from "../project/reach.ts";

interface Said {
  readonly text: string;
  readonly named: readonly Callable[];
  /** Whether nobody else is told: of what was told before in other words. */
  readonly onlyNamed?: boolean;
}

/** Tells whom it concerns what was said: who is named, who takes part, and who does it or answers for it, as far as they see it. */
export async function tellOfTalk(
  manager: EntityManager,
  post: Telling,
  me: Me,
  spoken: Spoken,
  { text, named, onlyNamed = false }: Said,
  at: Date,
): Promise<void> {
  const names = new Set(named.map(({ id }) => id));
  const others = new Set(onlyNamed ? [] : [...(await takingPart(manager, spoken.place)), ...spoken.concerned]);
  const told = (await everyAccount(manager)).filter(
    (who) =>
      who.id !== me.id &&
      spoken.isSeenBy(who) &&
      (names.has(who.id) || others.has(who.id) || (who.person !== null && others.has(who.person))),
  );
  if (told.length === 0) return;
  // Who sees it for its own sake, without the project, is told of it as of their own.
  const within = new Set(
    told
      .filter((who) => spoken.project !== null && (spoken.place.about !== "matter" || maySee(who, spoken.project)))
      .map(({ id }) => id),
  );
  const accounts = await manager.getRepository(AccountEntity).findBy({ id: In(told.map(({ id }) => id)) });
  await post.put(
    manager,
    accounts.map((to): Message => ({
      ...{
        to,
        from: me,
        kind: "talk",
        about: talkAbout(spoken.place),
        project: within.has(to.id) ? spoken.project?.id : undefined,
      },
      subject: names.has(to.id) ? `${me.name} asks you: ${spoken.name}` : `${me.name} on ${spoken.name}`,
      body: text,
      link: talkAddress(spoken.place),
      act: "Answer",
    })),
    at,
  );
}
