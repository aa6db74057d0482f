export type Theme = "enamel" | "nightwatch";
const KEY = "chronometra.theme";

const preferred = (): Theme => (matchMedia("(prefers-color-scheme: dark)").matches ? "nightwatch" : "enamel");

/** The theme that was kept in this browser, or that the system prefers. */
export function themeNow(): Theme {
  const kept = localStorage.getItem(KEY);
  return kept === "enamel" || kept === "nightwatch" ? kept : preferred();
}

export const keepTheme = (theme: Theme): void => localStorage.setItem(KEY, theme);

/** Puts the kept or preferred theme on the page. */
export const showTheme = (): void => void (document.documentElement.dataset["theme"] = themeNow());
