import type { Benefit, Charter, CharterField, Deliverable } from "@chronometra/contract";

/** What the demo's projects say of themselves; a deliverable names by their names what makes it. */
interface Chartered {
  readonly fields: Partial<Pick<Charter, CharterField>>;
  readonly benefits?: Readonly<Record<string, Benefit>>;
  readonly deliverables?: Readonly<Record<string, Omit<Deliverable, "makes"> & { readonly madeBy: readonly string[] }>>;
}

/** By project code. */
export const CHARTERS: Readonly<Record<string, Chartered>> = {
  "LG-02": {
    fields: {
      sponsor: "Harbour master’s office",
      organisation: "Locks and crossings",
      kind: "Renewal of works that stand",
      purpose:
        "The north gates leak and are moved by hand when the drives fail. New leaves and drives let ships of the wide class " +
        "pass without waiting for slack water, and end the closures of three weeks each spring.",
      assumptions: "The sill is sound. The yard keeps two berths free until the leaves are accepted.",
      constraints:
        "The lock is closed to traffic only between October and March. No works at night beside the nursery.",
    },
    benefits: {
      waiting: {
        what: "Ships of the wide class wait less",
        measure: "hours a ship waits, average of a year",
        target: "1.5 h instead of 6 h",
        by: "2027-12-31",
        money: [],
        measured: [{ on: "2026-01-31", text: "6.2 h before the works", amountMinor: null }],
      },
      closures: {
        what: "No closures of three weeks for repairs",
        measure: "tolls that are not lost",
        target: "180 000 a year",
        by: null,
        money: [
          { period: "2027", amountMinor: 9_000_000 },
          { period: "2028", amountMinor: 18_000_000 },
          { period: "2029", amountMinor: 18_000_000 },
        ],
        measured: [],
      },
    },
    deliverables: {
      leaves: {
        name: "Four gate leaves",
        owner: "Tomas Lindqvist",
        madeBy: ["Leaves accepted at yard"],
        accepted: null,
      },
      lock: {
        name: "Lock open to ships of the wide class",
        owner: "Harbour master",
        madeBy: ["Open to traffic"],
        accepted: null,
      },
    },
  },
  "SW-05": {
    fields: {
      state: "proposed",
      sponsor: "Water quality laboratory",
      kind: "New installation",
      purpose: "Samples are taken by boat twice a month. Buoys that sample each tide show what passes between.",
    },
  },
};
