/** An amount in minor units of its currency, whole: cents, or what a currency without them has. */
export type MinorUnits = number & { readonly unit: "MinorUnits" };

/** A number that is known to be an amount in minor units, as arithmetic gives it. */
export const minorUnits = (amount: number): MinorUnits => amount as MinorUnits;

export const NO_MONEY = minorUnits(0);

/** Sum and difference of amounts of one currency. */
export const plus = (a: MinorUnits, b: MinorUnits): MinorUnits => minorUnits(a + b);
export const minus = (a: MinorUnits, b: MinorUnits): MinorUnits => minorUnits(a - b);
