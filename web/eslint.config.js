import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";
import { noQuantityArithmetic } from "./lint/no-quantity-arithmetic.js";

const rooms = [
  "base",
  "plant",
  "instruments",
  "logbook",
  "safety",
  "stores",
  "electrical",
  "alignment",
  "hydraulics",
  "jobs",
];
const plain = "The web never formats a quantity: the API returns `shown`.";

// A room sees only the rooms beneath it, and those through their index.
const fences = rooms.map((room, i) => ({
  files: [`src/${room}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          ...rooms.slice(i + 1).map((above) => ({
            group: [`**/${above}`, `**/${above}/**`],
            message: `${room} lies beneath ${above}.`,
          })),
          ...rooms.slice(0, i).map((below) => ({
            // What a test of any room holds in hand is no part of the program.
            group: [`**/${below}/*`, `**/${below}/**/*`, "!**/base/test-sheets", "!**/base/test-writes"],
            message: `Through the front door: ../${below}`,
          })),
        ],
      },
    ],
  },
}));

export default tseslint.config(
  { ignores: ["dist", "src/base/generated"] },
  ...tseslint.configs.recommended,
  {
    files: ["src/**/*.{ts,tsx}"],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    plugins: {
      "react-hooks": reactHooks,
      hurbin: { rules: { "no-quantity-arithmetic": noQuantityArithmetic } },
    },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "hurbin/no-quantity-arithmetic": "error",
      "no-restricted-syntax": [
        "error",
        { selector: "CallExpression[callee.property.name=/^(toFixed|toPrecision)$/]", message: plain },
        {
          selector: "JSXAttribute[name.name='style']",
          message: "A class says it; a place on a drawing: Spot.",
        },
        {
          selector: "JSXOpeningElement[name.name='button'] > JSXAttribute[name.name='disabled']",
          message: "Act: a button that cannot be pressed says what it waits for.",
        },
        { selector: "MemberExpression[object.name='Intl'][property.name='NumberFormat']", message: plain },
      ],
    },
  },
  // Its reason is its label, or stands over the whole group.
  {
    files: ["src/base/components/{Act,Keypad,RadioGroup}.tsx"],
    rules: { "no-restricted-syntax": "off" },
  },
  // The one place that sets what a drawing works out.
  { files: ["src/base/components/Spot.tsx"], rules: { "no-restricted-syntax": "off" } },
  ...fences,
);
