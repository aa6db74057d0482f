/**
 * Where functions are longer, or have more ways through, than elsewhere: by name, with why. What is neither here nor
 * within the limits is refused.
 */
export const LONGER = [
  {
    why: "Passes over columns: their speed hangs on being in one piece.",
    files: [
      "packages/core/src/network/{backwardPass,forwardPass}.ts",
      "packages/core/src/chances/chances.ts",
      "apps/server/src/collect/blocked/blockedWorker.ts",
    ],
  },
  {
    why: "One case for each kind of change, cell, field or rule: read as a list, where a new kind is one case more.",
    files: [
      "packages/core/src/plan/applyChanges.ts",
      "packages/core/src/plan/check/{checkActivity,checkOwnTables,checkPlan}.ts",
      "packages/core/src/plan/words/{changeWords,pathWords,schemaWords}.ts",
      "packages/core/src/plan/typed/workText.ts",
      "packages/core/src/performance/credit.ts",
      "packages/core/src/drift/{ledgerSteps,pushOut}.ts",
      "packages/core/src/collect/remarks.ts",
      "apps/server/src/exchange/sheets/{readCells,readFiles,readOds}.ts",
      "apps/server/src/watch/asked/fieldSql.ts",
      "apps/server/src/shared/http.ts",
      "apps/web/src/collect/{readTime,reportWords}.ts",
      "apps/web/src/frame/firstSteps.ts",
      "apps/web/src/plan/grid/cells/gridState.ts",
      "apps/web/src/shared/words/amounts.ts",
      "apps/web/src/watch/answer/EditCell.tsx",
    ],
  },
  {
    why: "One value laid out field by field, each decided for itself.",
    files: [
      "packages/core/src/baseline/compare.ts",
      "packages/core/src/drift/effect.ts",
      "packages/core/src/network/schedule.ts",
      "packages/core/src/quality/ground/ground.ts",
      "apps/server/src/collect/outside/files.ts",
      "apps/server/src/collect/weekService.ts",
      "apps/server/src/dates/deadlines.ts",
      "apps/server/src/load/people.ts",
      "apps/server/src/look/activityLook.ts",
      "apps/server/src/portfolio/portfolioRoutes.ts",
      "apps/server/src/writers/{summarise,activities/activityRow}.ts",
      "apps/web/src/plan/chart/laneShapes.ts",
      "apps/web/src/plan/engine/layOutSheet.ts",
    ],
  },
  {
    why: "The columns of a table, one entry each.",
    files: [
      "apps/web/src/approve/compare/ComparePage.tsx",
      "apps/web/src/collect/week/peopleColumns.tsx",
      "apps/web/src/dates/MilestonesPage.tsx",
      "apps/web/src/portfolio/{baseColumns,portfolioColumns}.tsx",
    ],
  },
  {
    why: "Drawings, with all that a picture is made of in one place.",
    files: [
      "apps/web/src/plan/chart/{Lane,drag/DragNote}.tsx",
      "apps/web/src/plan/grid/{PlanSheet,SheetLine,SheetLines}.tsx",
      "apps/web/src/plan/grid/cells/SheetCell.tsx",
      "apps/web/src/plan/print/PrintPage.tsx",
      "apps/web/src/portfolio/SpiCpiPlot.tsx",
      "apps/web/src/shared/charts/Chart.tsx",
      "apps/web/src/shared/dialogs/EffectView.tsx",
    ],
  },
  {
    why: "The wiring of the application, from its start to its end.",
    files: ["apps/server/src/main.ts", "apps/server/src/start/app.ts", "apps/web/src/plan/PlanWork.tsx"],
  },
  {
    why: "Of one mind: what it holds is read and written by all of it.",
    files: [
      "packages/core/src/drift/driftLedger.ts",
      "packages/core/src/plan/acts/branches.ts",
      "apps/web/src/plan/engine/session/planSession.ts",
      "apps/web/src/plan/grid/cells/{useGrid,useTyping}.ts",
      "apps/web/src/plan/testing/fakeServer.ts",
    ],
  },
];
