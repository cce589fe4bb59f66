import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  ...tseslint.configs.strict,
  { rules: { "@typescript-eslint/no-non-null-assertion": "error", "@typescript-eslint/no-unused-vars": ["error", { ignoreRestSiblings: true }], eqeqeq: ["error", "always", { null: "ignore" }], "no-console": "error" } },
);
