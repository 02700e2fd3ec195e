import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  test: {
    projects: [
      // what knows no page shares one process: a world of its own for each file takes three times as long
      { extends: true, test: { name: "plain", include: ["src/**/*.test.ts"], pool: "threads", isolate: false, unstubGlobals: true } },
      { extends: true, test: { name: "page", include: ["src/**/*.test.tsx"], environment: "jsdom" } },
    ],
  },
});
