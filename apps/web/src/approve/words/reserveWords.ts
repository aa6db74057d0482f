import type { Reserves } from "@chronometra/contract";

export type ReserveKind = Reserves["entries"][number]["kind"];
export const RESERVE_WORDS: Readonly<Record<ReserveKind, string>> = {
  contingency: "contingency",
  management: "management reserve",
};
