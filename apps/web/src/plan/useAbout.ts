import { useState } from "react";
import { useAddress } from "../shared/page/useAddress.ts";
import { TABS, type AboutTab } from "./panel/AboutPanel.tsx";

/** The panel about the chosen activity, open or not, kept in the address. */
export function useAbout() {
  const [params, put] = useAddress();
  /** Opened by a key, the panel takes the keyboard. */
  const [byKey, setByKey] = useState(false);
  const tab = TABS.find(({ id }) => id === params.get("about"))?.id ?? null;
  const show = (next: AboutTab | null): void => put({ about: next });
  const toggle = (to: AboutTab, key: boolean): void => {
    setByKey(key);
    show(tab === null ? to : null);
  };
  return { tab, show, toggle, byKey };
}
export type About = ReturnType<typeof useAbout>;
