import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  test: {
    pool: "threads",
    projects: [
      // what is only worked out shares one world: each module is read once for all files
      { extends: true, test: { name: "plain", include: ["src/**/*.test.ts"], exclude: ["src/**/*.apart.test.ts"], isolate: false } },
      // these put stand-ins in the place of modules or of what a browser gives
      { extends: true, test: { name: "apart", include: ["src/**/*.apart.test.ts"] } },
      { extends: true, test: { name: "page", include: ["src/**/*.test.tsx"], environment: "jsdom" } },
    ],
  },
});
