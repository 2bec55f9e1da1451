import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

// Those that go on asking a server have modules of their own; for all others a new page for each file would be waste.
const ASKING = ["edits", "following", "looks", "previews", "views"].map((name) => `**/${name}.test.ts`);

// The front end's tests lie with all others; what they bring in is found from here.
export default defineConfig({
  server: { fs: { allow: [here("..")] } },
  resolve: { alias: { "@": here("src"), three: here("node_modules/three/build/three.module.js"), "@msgpack/msgpack": here("node_modules/@msgpack/msgpack") } },
  test: {
    dir: here("../tests/front_end"),
    globals: true,
    environment: "happy-dom",
    projects: [
      { extends: true, test: { name: "asking", include: ASKING } },
      { extends: true, test: { name: "alone", include: ["**/*.test.ts"], exclude: ASKING, isolate: false } },
    ],
  },
});
