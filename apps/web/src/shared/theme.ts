import { useSyncExternalStore } from "react";

export type Theme = "enamel" | "nightwatch";
const KEY = "chronometra.theme";

const preferred = (): Theme => (matchMedia("(prefers-color-scheme: dark)").matches ? "nightwatch" : "enamel");
const read = (): Theme => {
  const kept = localStorage.getItem(KEY);
  return kept === "enamel" || kept === "nightwatch" ? kept : preferred();
};

const listeners = new Set<() => void>();

/** Puts the kept or preferred theme on the page. */
export const showTheme = (): void => void (document.documentElement.dataset["theme"] = read());

export function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  showTheme();
  for (const listener of listeners) listener();
}

export const useTheme = (): Theme =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, read);
