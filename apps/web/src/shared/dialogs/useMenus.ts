import { useEffect } from "react";

/** What unfolds over the page: it closes by Escape, by a press outside, and once something in it was chosen. */
const OPEN = "details.relative[open]";

const openMenus = (): HTMLDetailsElement[] => [...document.querySelectorAll<HTMLDetailsElement>(OPEN)];

/** One of several things to choose from, and not a tool beside something that is ticked. */
function isItem(target: Element): boolean {
  const line = target.closest("button, a")?.closest("li");
  return line != null && line.querySelector("input") === null;
}

/** Has menus close as menus do; once for the whole page. */
export function useMenus(): void {
  useEffect(() => {
    // Once the press has become a click: what lies below may move when a menu goes, and the click would miss it.
    const onPress = ({ target }: MouseEvent): void => {
      for (const menu of openMenus()) if (!menu.contains(target as Node)) menu.open = false;
    };
    const onClick = ({ target }: MouseEvent): void => {
      for (const menu of openMenus()) if (menu.contains(target as Node) && isItem(target as Element)) menu.open = false;
    };
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== "Escape") return;
      for (const menu of openMenus()) {
        menu.open = false;
        menu.querySelector("summary")?.focus();
      }
    };
    document.addEventListener("click", onPress, true);
    document.addEventListener("click", onClick);
    document.addEventListener("keydown", onKey);
    return () => {
      document.removeEventListener("click", onPress, true);
      document.removeEventListener("click", onClick);
      document.removeEventListener("keydown", onKey);
    };
  }, []);
}
