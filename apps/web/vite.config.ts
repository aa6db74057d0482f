import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ["development", "module", "browser"] },
  build: { outDir: "dist", sourcemap: false, target: "es2023", modulePreload: { polyfill: false } },
  worker: { format: "es" },
  server: { proxy: { "/api": "http://localhost:4600" } },
});
