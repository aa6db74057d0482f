import { AccountEntity, SessionEntity } from "./accountEntity.ts";
import { PreferenceEntity } from "./preferenceEntity.ts";
import { ApiTokenEntity } from "./tokens.ts";

/** Those of who is signed in, which connections of their own read. */
export const SESSION_ENTITIES = [AccountEntity, SessionEntity];

/** The tables of this room. */
export const ACCESS_ENTITIES = [...SESSION_ENTITIES, PreferenceEntity, ApiTokenEntity];
