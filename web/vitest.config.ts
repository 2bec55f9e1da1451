import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

// The front end's tests lie with all others; what they bring in is found from here.
export default defineConfig({
  server: { fs: { allow: [here("..")] } },
  resolve: { alias: { "@": here("src"), three: here("node_modules/three/build/three.module.js"), "@msgpack/msgpack": here("node_modules/@msgpack/msgpack") } },
  test: { dir: here("../tests/front_end"), globals: true, environment: "happy-dom" },
});
