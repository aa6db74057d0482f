import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { compression, defineAlgorithm } from "vite-plugin-compression2";

export default defineConfig({
  // Pressed once, as hard as can be, and not at each call.
  plugins: [
    react(),
    tailwindcss(),
    compression({
      include: /\.(js|css|svg)$/,
      algorithms: [defineAlgorithm("brotliCompress"), defineAlgorithm("gzip", { level: 9 })],
    }),
  ],
  resolve: { conditions: ["development", "module", "browser"] },
  build: {
    outDir: "dist",
    sourcemap: false,
    // The server reads from it which files a page needs.
    manifest: true,
    target: "es2023",
    modulePreload: { polyfill: false },
    rolldownOptions: {
      // A schema that no page checks anything with, and what no page derives, is left out of what the browser fetches.
      treeshake: { manualPureFunctions: ["z", "remembered"] },
      // What many pages share comes as one file: each file more is a trip more to the server.
      output: {
        codeSplitting: {
          groups: [
            {
              name: "begin",
              test: /preload-helper|web.src.shared.(charts.shownTheme|session.(firstSession|api))\.|contract.src.progress/,
            },
            { name: "react", test: /node_modules.(react|react-dom|scheduler)[\\/]/ },
            { name: "frame", test: /node_modules.(react-router|@tanstack.(react-query|query-core))[\\/]/ },
            {
              name: "way-in",
              test: /web.src.(access.SignIn\.|shared.(charts.Dial|dialogs.Failure|fields.fieldsOf)\.)/,
              includeDependenciesRecursively: false,
            },
            {
              name: "tables",
              test: /node_modules.(@tanstack.(table|react-table|store|react-store)|papaparse)|shared.(table.(DataTable|TableTools|fileTable|cellFocus|useFit|keptColumns)|files.(tableText|saveTable))\./,
              includeDependenciesRecursively: false,
            },
            { name: "common", test: /web.src|lucide/, minShareCount: 4 },
            {
              name: "common",
              test: /web.src.shared|web.src.portfolio.opens|web.src.cycle.CycleTools|core.src.(words|time)/,
              minShareCount: 2,
              includeDependenciesRecursively: false,
            },
          ],
        },
      },
    },
  },
  worker: { format: "es" },
  server: { proxy: { "/api": "http://localhost:4600" } },
});
