import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

/** What has not come by then is not going to: as long as the other tests have patience, for a machine that tests beside others stands still for
 * some of it. */
const PATIENCE_MS = 120_000;

declare module "vitest" {
  interface ProvidedContext {
    patience: number;
  }
}

export default defineConfig({
  plugins: [react()],
  test: {
    pool: "threads",
    testTimeout: PATIENCE_MS,
    hookTimeout: PATIENCE_MS,
    expect: { poll: { timeout: PATIENCE_MS } },
    provide: { patience: PATIENCE_MS },
    projects: [
      // what is only worked out shares one world: each module is read once for all files
      { extends: true, test: { name: "plain", include: ["src/**/*.test.ts"], exclude: ["src/**/*.apart.test.ts"], isolate: false } },
      // these put stand-ins in the place of modules or of what a browser gives
      { extends: true, test: { name: "apart", include: ["src/**/*.apart.test.ts"] } },
      { extends: true, test: { name: "page", include: ["src/**/*.test.tsx"], environment: "jsdom" } },
    ],
  },
});
