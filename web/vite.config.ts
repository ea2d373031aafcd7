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
  test: { environment: "jsdom", include: ["tests/**/*.test.{ts,tsx}"] },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
