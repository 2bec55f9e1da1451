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
  { ignores: ["src/api/generated.ts", "src/api/tables.ts"] },
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
  {
    files: ["src/**"],
    ignores: ["src/theme.ts", "src/stage/colours.ts"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: "Literal[value=/^#[0-9a-fA-F]{3,8}$/]",
          message: "Colours come from the tokens in styles.css, those of the stage from stage/colours.ts.",
        },
      ],
    },
  },
  ...oneWay,
);
