import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 900,
    // What the worker that serves the page without the network keeps.
    manifest: "assets.json",
    rollupOptions: {
      input: { main: "index.html", sw: "src/sw.ts" },
      output: {
        entryFileNames: (chunk) => (chunk.name === "sw" ? "sw.js" : "assets/[name]-[hash].js"),
      },
    },
  },
  test: {
    // A window only for those that ask for one, in their first line; one process for all of them.
    environment: "node",
    include: ["tests/**/*.test.{ts,tsx}"],
    pool: "threads",
    isolate: false,
    maxWorkers: 1,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
