import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  ...tseslint.configs.strictTypeChecked,
  {
    files: ["{src,tests}/**/*.{ts,tsx}"],
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { "react-hooks": hooks, "jsx-a11y": a11y },
    rules: {
      ...hooks.configs.recommended.rules,
      ...a11y.configs.strict.rules,
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // Of our own fields: what one asked for by a press is typed into at once.
      "jsx-a11y/no-autofocus": ["error", { ignoreNonDOM: true }],
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      // Sizes and colours are said by parts of the kit and by the theme.
      "no-restricted-syntax": [
        "error",
        {
          selector: "JSXAttribute[name.name='style'] > JSXExpressionContainer > ObjectExpression",
          message: "Say it in a styled part.",
        },
      ],
    },
  },
);
