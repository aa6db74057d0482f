import "@fontsource-variable/besley/wght.css";
import "@fontsource-variable/source-sans-3/wght.css";
import "./theme.css";
import { showTheme } from "./shared/shownTheme.ts";

showTheme();

async function run(): Promise<void> {
  try {
    await import("./main.tsx");
  } catch (error) {
    document.getElementById("root")!.append("This page could not be loaded. Check the connection and load it again.");
    throw error;
  }
}

// The first bar is painted before the application is read and run, which takes a phone's processor a good part of a second. A page
// that lies behind others is not painted at all.
if (document.hidden) void run();
else requestAnimationFrame(() => setTimeout(() => void run()));
