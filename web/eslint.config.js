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
    rules: { ...hooks.configs.recommended.rules, "max-lines": ["error", { max: 260, skipBlankLines: true }] },
  },
  ...places.map((place) => ({
    files: [`src/places/${place}/**`],
    rules: {
      "no-restricted-imports": [
        "error",
        { patterns: places.filter((other) => other !== place).map((other) => `**/places/${other}/*`).concat(["**/app/*"]) },
      ],
    },
  })),
  {
    files: ["src/ui/**", "src/domain/**"],
    rules: { "no-restricted-imports": ["error", { patterns: ["**/api/*", "**/parts/*", "**/places/*", "**/app/*"] }] },
  },
);
