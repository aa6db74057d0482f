/** Who someone named in a file is, beside the id of someone who is known: a new person, a role without a name, nobody. */
export const NEW_PERSON = "new";
export const A_ROLE = "role";
export const NOBODY = "nobody";

/** The column of ours that a heading becomes a field of one's own by. */
export const OWN_COLUMN = "own";
