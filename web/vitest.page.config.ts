import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const installed = (name: string) => here(`node_modules/${name}`);

// The whole page on its real server: what is drawn is noted, and nothing is laid out.

export default defineConfig({
  server: { fs: { allow: [here("..")] } },
  resolve: {
    alias: {
      "@": here("src"),
      three: installed("three/build/three.module.js"),
      "@testing-library/dom": installed("@testing-library/dom"),
      "@testing-library/user-event": installed("@testing-library/user-event"),
    },
  },
  // As it is built: React in production is twice as fast.
  oxc: { jsx: { runtime: "automatic", development: false } },
  test: {
    dir: here("../tests/page"),
    globals: true,
    env: { NODE_ENV: "production" },
    environment: "happy-dom",
    environmentOptions: { happyDOM: { settings: { device: { prefersReducedMotion: "reduce" } } } },
    globalSetup: here("../tests/page/servers.ts"),
    setupFiles: here("../tests/page/surroundings.ts"),
    maxWorkers: 2,
    isolate: false,
    testTimeout: 120_000,
    hookTimeout: 60_000,
  },
});
