/** What can be done or opened without asking the server. */
export interface Command {
  readonly key: string;
  readonly name: string;
  readonly run: () => void;
}

const COMMANDS = "button, summary, a.btn, a[download]";
/** What belongs to a row or to what stands before the page is no command of the page. */
const WITHIN = "table, [role=grid], [role=treegrid], [role=listbox], dialog, nav";
/** Lists but menus hold rows as tables do. */
const isOfRow = (element: Element): boolean => {
  const row = element.closest("li");
  return row !== null && row.closest("details") === null;
};
const LONGEST = 60;

/** What a button says; of one that unfolds something, of what: "and 6 more" means nothing elsewhere. */
function nameOf(element: Element): string {
  const own = (element.getAttribute("aria-label") ?? element.textContent).replace(/\s+/g, " ").trim();
  const group = element.hasAttribute("aria-expanded") ? element.closest("[role=group][aria-label]") : null;
  return group === null ? own : `${group.getAttribute("aria-label")}: ${own}`;
}

const isShown = (element: HTMLElement): boolean =>
  element.closest("details:not([open]) > :not(summary)") !== null || element.offsetParent !== null;

/**
 * What the buttons and menus of the page in hand do, each under its own name; carried out as if they were pressed.
 * @param page the element that holds the page
 */
export function commandsOf(page: Element | null): Command[] {
  const found = new Map<string, Command>();
  for (const element of page?.querySelectorAll<HTMLElement>(COMMANDS) ?? []) {
    const name = nameOf(element);
    if (name === "" || name.length > LONGEST || found.has(name)) continue;
    if (element.matches(":disabled") || element.closest(WITHIN) !== null || isOfRow(element) || !isShown(element))
      continue;
    found.set(name, { key: `command ${name}`, name, run: () => element.click() });
  }
  return [...found.values()];
}
