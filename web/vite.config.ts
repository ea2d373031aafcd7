import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: { target: "es2022", chunkSizeWarningLimit: 900 },
  test: { environment: "jsdom", include: ["tests/**/*.test.{ts,tsx}"] },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
