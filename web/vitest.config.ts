import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  test: {
    projects: [
      // each file in a world of its own: some put stand-ins in the place of modules that others want as they are
      { extends: true, test: { name: "plain", include: ["src/**/*.test.ts"], pool: "threads" } },
      { extends: true, test: { name: "page", include: ["src/**/*.test.tsx"], environment: "jsdom" } },
    ],
  },
});
