import "@fontsource-variable/besley/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import "./theme.css";
import { askFirst, keepFirst } from "./shared/session/firstSession.ts";
import { showTheme } from "./shared/charts/shownTheme.ts";

showTheme();

const root = document.getElementById("root")!;

/** Whoever is not signed in is shown the way in alone; the pages come once they begin to type. */
async function begin(): Promise<void> {
  // Where it cannot be said who is signed in, the pages say why.
  const session = await askFirst().catch(() => null);
  if (session !== null && session.me === null) {
    const { showWayIn } = await import("./access/first.tsx");
    // Fetched ahead; what stands against it is told below, where it is asked for again.
    const onBegun = (): void => void import("./main.tsx").catch(() => undefined);
    keepFirst(await showWayIn(root, onBegun));
  }
  const { showPages } = await import("./main.tsx");
  showPages(root);
}

async function run(): Promise<void> {
  try {
    await begin();
  } catch (error) {
    root.append("This page could not be loaded. Check the connection and load it again.");
    throw error;
  }
}

// The first bar is painted before the application is read and run, which takes a phone's processor a good part of a
// second. A page
// that lies behind others is not painted at all.
if (document.hidden) void run();
else requestAnimationFrame(() => setTimeout(() => void run()));
