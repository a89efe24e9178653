import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

const places = ["shelf", "bench", "worklist", "outbox", "household"];

export default ts.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...ts.configs.strict,
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      // only of interest to a compiler that is not used here
      "react-hooks/incompatible-library": "off",
      "max-lines": ["error", { max: 260, skipBlankLines: true }],
      "no-restricted-syntax": [
        "error",
        {
          selector: "TSAsExpression:not([typeAnnotation.typeName.name='const'])",
          message: "A cast tells the compiler what it can't know; let it find out, or say why beside it.",
        },
      ],
    },
  },
  { files: ["src/**/*.test.{ts,tsx}"], rules: { "no-restricted-syntax": "off" } },
  { files: ["src/**/*.tsx"], rules: { "max-lines-per-function": ["error", { max: 90 }] } },
  ...places.map((place) => ({
    files: [`src/places/${place}/**`],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: places
            .filter((other) => other !== place)
            .map((other) => `**/places/${other}/*`)
            .concat(["**/app/*"]),
        },
      ],
    },
  })),
  {
    files: ["src/ui/**", "src/domain/**"],
    rules: {
      "no-restricted-imports": ["error", { patterns: ["**/api/*", "**/parts/*", "**/places/*", "**/app/*"] }],
    },
  },
);
