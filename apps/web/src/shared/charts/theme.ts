import { useSyncExternalStore } from "react";
import { keepTheme, showTheme, themeNow, type Theme } from "./shownTheme.ts";

const listeners = new Set<() => void>();

export function setTheme(theme: Theme): void {
  keepTheme(theme);
  showTheme();
  for (const listener of listeners) listener();
}

export const useTheme = (): Theme =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, themeNow);
