import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Folders of src, the lowest first: each may bring in only from itself and from those before it. */
const LAYERS = [
  "api", "optics", "state", "widgets", "stage", "marks", "plan", "bench", "picture", "card", "readings", "sheet", "desk",
  "workspace",
]; // prettier-ignore

const oneWay = LAYERS.map((layer, index) => ({
  files: [`src/${layer}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            // The styles of a folder belong to its components, wherever they are put together.
            group: LAYERS.slice(index + 1).flatMap((above) => [`../${above}/*`, `../../${above}/*`, `../../../${above}/*`]).concat(["../App", "../main"]),
            message: `What is in ${layer} may not bring in what stands above it.`,
          },
        ],
      },
    ],
  },
}));

export default tseslint.config(
  { ignores: ["src/api/generated.ts"] },
  js.configs.recommended,
  tseslint.configs.strict,
  {
    plugins: { "react-hooks": hooks },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/no-non-null-assertion": "off",
    },
  },
  ...oneWay,
);
