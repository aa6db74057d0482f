import { createBrowserRouter, type RouteObject } from "react-router";
import { Astray } from "./shared/page/Astray.tsx";
import { FirstBar, Shell } from "./frame/Shell.tsx";

/** Each place with what is fetched when someone first goes there. */
const places: RouteObject[] = [
  { index: true, lazy: async () => ({ Component: (await import("./portfolio/PortfolioPage.tsx")).PortfolioPage }) },
  { path: "deadlines", lazy: async () => ({ Component: (await import("./dates/DeadlinesPage.tsx")).DeadlinesPage }) },
  {
    path: "groups",
    children: [
      { index: true, lazy: async () => ({ Component: (await import("./portfolio/group/GroupPage.tsx")).GroupPage }) },
      {
        path: ":group",
        lazy: async () => ({ Component: (await import("./portfolio/group/GroupPage.tsx")).GroupPage }),
      },
    ],
  },
  {
    path: "roadmap",
    lazy: async () => ({ Component: (await import("./portfolio/roadmap/RoadmapPage.tsx")).RoadmapPage }),
  },
  { path: "calendar", lazy: async () => ({ Component: (await import("./calendar/CalendarPage.tsx")).CalendarPage }) },
  { path: "load", lazy: async () => ({ Component: (await import("./load/LoadPage.tsx")).LoadPage }) },
  {
    path: "begin",
    lazy: async () => ({ Component: (await import("./begin/ForPlanners.tsx")).ForPlanners }),
    children: [
      { index: true, lazy: async () => ({ Component: (await import("./begin/BeginPage.tsx")).BeginPage }) },
      { path: "steps", lazy: async () => ({ Component: (await import("./begin/StepsPage.tsx")).StepsPage }) },
      { path: "from", lazy: async () => ({ Component: (await import("./begin/FromPage.tsx")).FromPage }) },
      { path: "by-hand", lazy: async () => ({ Component: (await import("./begin/HandPage.tsx")).HandPage }) },
    ],
  },
  {
    path: "set-up",
    children: [
      {
        path: "templates",
        lazy: async () => ({ Component: (await import("./begin/templates/TemplatesPage.tsx")).TemplatesPage }),
      },
      {
        path: "life-cycles",
        lazy: async () => ({ Component: (await import("./gates/lifeCycles/LifeCyclesPage.tsx")).LifeCyclesPage }),
      },
      {
        path: "groups",
        lazy: async () => ({ Component: (await import("./portfolio/groups/GroupsPage.tsx")).GroupsPage }),
      },
      {
        path: "register",
        lazy: async () => ({ Component: (await import("./resources/register/RegisterPage.tsx")).RegisterPage }),
      },
      {
        path: "registers",
        lazy: async () => ({
          Component: (await import("./matters/settings/RegisterSettingsPage.tsx")).RegisterSettingsPage,
        }),
      },
      { path: "rates", lazy: async () => ({ Component: (await import("./access/SetUpPages.tsx")).RatesPage }) },
      { path: "accounts", lazy: async () => ({ Component: (await import("./access/SetUpPages.tsx")).AccountsPage }) },
      {
        path: "interface",
        lazy: async () => ({ Component: (await import("./access/interface/InterfacePage.tsx")).InterfacePage }),
      },
      { path: "systems", lazy: async () => ({ Component: (await import("./access/SetUpPages.tsx")).SystemsPage }) },
    ],
  },
  {
    path: "projects/:project",
    lazy: async () => ({ Component: (await import("./frame/ProjectFrame.tsx")).ProjectFrame }),
    children: [
      { index: true, lazy: async () => ({ Component: (await import("./look/FiguresPage.tsx")).FiguresPage }) },
      { path: "plan", lazy: async () => ({ Component: (await import("./plan/PlanPage.tsx")).PlanPage }) },
      { path: "plan/print", lazy: async () => ({ Component: (await import("./plan/print/PrintPage.tsx")).PrintPage }) },
      {
        path: "registers",
        lazy: async () => ({ Component: (await import("./matters/RegistersPage.tsx")).RegistersPage }),
      },
      { path: "timeboxes", lazy: async () => ({ Component: (await import("./boxes/BoxesPage.tsx")).BoxesPage }) },
      { path: "timeboxes/:box", lazy: async () => ({ Component: (await import("./boxes/BoxPage.tsx")).BoxPage }) },
      { path: "board", lazy: async () => ({ Component: (await import("./collect/board/BoardPage.tsx")).BoardPage }) },
      {
        path: "resources",
        lazy: async () => ({ Component: (await import("./resources/ResourcesPage.tsx")).ResourcesPage }),
      },
      { path: "dates", lazy: async () => ({ Component: (await import("./dates/MilestonesPage.tsx")).MilestonesPage }) },
      {
        path: "milestones/:milestone",
        lazy: async () => ({ Component: (await import("./boxes/gathered/GatheredPage.tsx")).GatheredPage }),
      },
      { path: "slip/:milestone", lazy: async () => ({ Component: (await import("./dates/SlipPage.tsx")).SlipPage }) },
      {
        path: "performance",
        lazy: async () => ({ Component: (await import("./look/PerformancePage.tsx")).PerformancePage }),
      },
      { path: "chances", lazy: async () => ({ Component: (await import("./chances/ChancesPage.tsx")).ChancesPage }) },
      { path: "trust", lazy: async () => ({ Component: (await import("./quality/TrustPage.tsx")).TrustPage }) },
      { path: "approvals", lazy: async () => ({ Component: (await import("./approve/LedgerPage.tsx")).LedgerPage }) },
      {
        path: "whatif/:whatif",
        lazy: async () => ({ Component: (await import("./approve/whatIf/WhatIfPage.tsx")).WhatIfPage }),
      },
      {
        path: "compare",
        lazy: async () => ({ Component: (await import("./approve/compare/ComparePage.tsx")).ComparePage }),
      },
      { path: "report", lazy: async () => ({ Component: (await import("./report/ReportPage.tsx")).ReportPage }) },
      {
        path: "report/:number",
        lazy: async () => ({ Component: (await import("./report/IssuedPage.tsx")).IssuedPage }),
      },
      { path: "stages", lazy: async () => ({ Component: (await import("./gates/StagesPage.tsx")).StagesPage }) },
      { path: "charter", lazy: async () => ({ Component: (await import("./charter/CharterPage.tsx")).CharterPage }) },
      { path: "closing", lazy: async () => ({ Component: (await import("./cycle/ClosingPage.tsx")).ClosingPage }) },
      {
        path: "talk",
        lazy: async () => ({ Component: (await import("./talk/TalkPage.tsx")).ProjectTalkPage }),
      },
      {
        path: "then/:revision",
        lazy: async () => ({ Component: (await import("./plan/history/ThenPage.tsx")).ThenPage }),
      },
      {
        path: "history",
        lazy: async () => ({ Component: (await import("./plan/history/HistoryPage.tsx")).HistoryPage }),
      },
    ],
  },
  { path: "cycle", lazy: async () => ({ Component: (await import("./cycle/CyclePage.tsx")).CyclePage }) },
  { path: "cycle/lock", lazy: async () => ({ Component: (await import("./cycle/oneByOne/LockPage.tsx")).LockPage }) },
  {
    path: "cycle/data-dates",
    lazy: async () => ({ Component: (await import("./cycle/oneByOne/DataDatesPage.tsx")).DataDatesPage }),
  },
  { path: "cycle/missing", lazy: async () => ({ Component: (await import("./cycle/MissingPage.tsx")).MissingPage }) },
  { path: "desk", lazy: async () => ({ Component: (await import("./collect/desk/DeskPage.tsx")).DeskPage }) },
  { path: "desk/week", lazy: async () => ({ Component: (await import("./collect/week/WeekPage.tsx")).WeekPage }) },
  { path: "time", lazy: async () => ({ Component: (await import("./collect/review/ReviewPage.tsx")).ReviewPage }) },
  {
    path: "time/costs",
    lazy: async () => ({ Component: (await import("./collect/outside/OutsidePage.tsx")).OutsidePage }),
  },
  { path: "time/blocked", lazy: async () => ({ Component: (await import("./collect/BlockedPage.tsx")).BlockedPage }) },
  {
    path: "time/people",
    lazy: async () => ({ Component: (await import("./collect/week/PeoplePage.tsx")).PeoplePage }),
  },
  {
    path: "registers",
    lazy: async () => ({ Component: (await import("./matters/RegistersPage.tsx")).RegistersPage }),
  },
  { path: "watch", lazy: async () => ({ Component: (await import("./watch/WatchPage.tsx")).WatchPage }) },
  { path: "watch/:watchlist", lazy: async () => ({ Component: (await import("./watch/WatchPage.tsx")).WatchPage }) },
  { path: "reports", lazy: async () => ({ Component: (await import("./report/ReportsPage.tsx")).ReportsPage }) },
  { path: "reports/:group", lazy: async () => ({ Component: (await import("./report/ReportPage.tsx")).ReportPage }) },
  {
    path: "reports/:group/:number",
    lazy: async () => ({ Component: (await import("./report/IssuedPage.tsx")).IssuedPage }),
  },
  { path: "inbox", lazy: async () => ({ Component: (await import("./tell/InboxPage.tsx")).InboxPage }) },
  {
    path: "desk/plans",
    lazy: async () => ({ Component: (await import("./collect/plans/OwnPlansPage.tsx")).OwnPlansPage }),
  },
  {
    path: "desk/plans/:project",
    lazy: async () => ({ Component: (await import("./collect/plans/OwnPlanPage.tsx")).OwnPlanPage }),
  },
  { path: "talk", lazy: async () => ({ Component: (await import("./talk/TalkPage.tsx")).TalkPage }) },
  {
    path: "set-up/history",
    lazy: async () => ({ Component: (await import("./access/house/HouseHistoryPage.tsx")).HouseHistoryPage }),
  },
  { path: "mail", lazy: async () => ({ Component: (await import("./tell/MailPage.tsx")).MailPage }) },
  { path: "approvals", lazy: async () => ({ Component: (await import("./approve/ApprovalsPage.tsx")).ApprovalsPage }) },
  { path: "import", lazy: async () => ({ Component: (await import("./exchange/ImportPage.tsx")).ImportPage }) },
  { path: "import/:import", lazy: async () => ({ Component: (await import("./exchange/ImportPage.tsx")).ImportPage }) },
  { path: "settings", lazy: async () => ({ Component: (await import("./access/SettingsPage.tsx")).SettingsPage }) },
  {
    path: "first-steps",
    lazy: async () => ({ Component: (await import("./frame/FirstStepsPage.tsx")).FirstStepsPage }),
  },
  { path: "keys", lazy: async () => ({ Component: (await import("./shared/page/KeysPage.tsx")).KeysPage }) },
  { path: "*", Component: Astray },
];

/** All pages. What a page needs is fetched from here on. */
export const pages = () =>
  createBrowserRouter([
    { path: "/", Component: Shell, ErrorBoundary: Astray, HydrateFallback: FirstBar, children: places },
  ]);
