import type { Role } from "@chronometra/contract";

export type Trade =
  | "engineer"
  | "fitter"
  | "welder"
  | "diver"
  | "electrician"
  | "surveyor"
  | "ecologist"
  | "planner"
  | "skipper"
  | "mason";

export interface DemoPerson {
  readonly id: string;
  readonly name: string;
  readonly trade: Trade;
  readonly roles: readonly Role[];
  /** Minor units an hour, from February and from July 2026. */
  readonly rates: readonly [number, number];
}

const RATES: Record<Trade, number> = {
  engineer: 8200,
  fitter: 5400,
  welder: 5900,
  diver: 9600,
  electrician: 6100,
  surveyor: 6400,
  ecologist: 6000,
  planner: 7300,
  skipper: 5800,
  mason: 5200,
};

const person = (name: string, trade: Trade, roles: readonly Role[] = ["contributor"], more = 0): DemoPerson => ({
  id: name
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z]+/g, "-"),
  name,
  trade,
  roles,
  rates: [RATES[trade] + more, Math.round((RATES[trade] + more) * 1.032)],
});

/** The people of the Saltmarrow Estuary Authority, all invented. */
export const PEOPLE: readonly DemoPerson[] = [
  person("Ines Okafor", "planner", ["controller"], 900),
  person("Margit Adeyemi", "planner", ["approver", "reader"], 2600),
  person("Tomas Lindqvist", "engineer", ["projectManager", "contributor"], 1400),
  person("Wanjiru Castell", "engineer", ["projectManager", "contributor"], 1300),
  person("Radu Fennimore", "engineer", ["projectManager", "contributor"], 1200),
  person("Sunniva Achterberg", "ecologist", ["projectManager", "contributor"], 1500),
  person("Quill Marchetti", "planner", ["reader"]),
  person("Dagny Osei", "planner", ["administrator", "reader"]),
  person("Pavel Nakagawa", "engineer"),
  person("Lúcia Brandvold", "engineer"),
  person("Oyelaran Duffy", "engineer"),
  person("Hana Pettersen", "engineer"),
  person("Jorun Mbeki", "engineer", ["contributor"], 600),
  person("Silas Vandermeer", "fitter"),
  person("Amadou Keller", "fitter"),
  person("Brigid Yilmaz", "fitter"),
  person("Teodor Malick", "fitter"),
  person("Nkechi Sorensen", "fitter"),
  person("Ravi Holloway", "welder"),
  person("Ulla Ferreira", "welder"),
  person("Kofi Lindgren", "welder"),
  person("Marisol Grant", "welder"),
  person("Eskil Tanaka", "diver"),
  person("Zofia Abara", "diver"),
  person("Corentin Hale", "diver"),
  person("Priya Nordahl", "electrician"),
  person("Anselm Reyes", "electrician"),
  person("Gulnara Pike", "electrician"),
  person("Dov Castellane", "electrician"),
  person("Yusra Thorne", "surveyor"),
  person("Piet Morales", "surveyor"),
  person("Ailbhe Suzuki", "surveyor"),
  person("Mehmet Ravn", "ecologist"),
  person("Clara Nyström", "ecologist"),
  person("Ignace Obuya", "planner"),
  person("Fenna Delacroix", "planner"),
  person("Bo Achieng", "skipper"),
  person("Torvald Singh", "skipper"),
  person("Leocadia Park", "mason"),
  person("Duncan Imanov", "mason"),
  person("Saoirse Bello", "mason"),
];
