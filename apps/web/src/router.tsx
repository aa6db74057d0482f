import { createBrowserRouter, type RouteObject } from "react-router";
import { Astray } from "./shared/Astray.tsx";
import { Shell } from "./shared/Shell.tsx";

/** Each place with what is fetched when someone first goes there. */
const places: RouteObject[] = [
  { index: true, lazy: async () => ({ Component: (await import("./portfolio/PortfolioPage.tsx")).PortfolioPage }) },
  {
    path: "projects/:project",
    lazy: async () => ({ Component: (await import("./portfolio/ProjectFrame.tsx")).ProjectFrame }),
    children: [
      { index: true, lazy: async () => ({ Component: (await import("./look/FiguresPage.tsx")).FiguresPage }) },
      { path: "plan", lazy: async () => ({ Component: (await import("./plan/PlanPage.tsx")).PlanPage }) },
      { path: "dates", lazy: async () => ({ Component: (await import("./look/DatesPage.tsx")).DatesPage }) },
      { path: "approvals", lazy: async () => ({ Component: (await import("./approve/LedgerPage.tsx")).LedgerPage }) },
      { path: "history", lazy: async () => ({ Component: (await import("./plan/HistoryPage.tsx")).HistoryPage }) },
    ],
  },
  { path: "desk", lazy: async () => ({ Component: (await import("./collect/DeskPage.tsx")).DeskPage }) },
  { path: "time", lazy: async () => ({ Component: (await import("./collect/ReviewPage.tsx")).ReviewPage }) },
  { path: "approvals", lazy: async () => ({ Component: (await import("./approve/ApprovalsPage.tsx")).ApprovalsPage }) },
  { path: "import", lazy: async () => ({ Component: (await import("./exchange/ImportPage.tsx")).ImportPage }) },
  { path: "import/:import", lazy: async () => ({ Component: (await import("./exchange/ImportPage.tsx")).ImportPage }) },
  { path: "settings", lazy: async () => ({ Component: (await import("./access/SettingsPage.tsx")).SettingsPage }) },
  { path: "*", Component: Astray },
];

export const router = createBrowserRouter([{ path: "/", Component: Shell, ErrorBoundary: Astray, HydrateFallback: () => null, children: places }]);
