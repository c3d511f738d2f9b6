// @vitest-environment node
/// <reference types="node" />
import { ESLint } from "eslint";
import { describe, expect, it } from "vitest";

const lint = new ESLint({ cwd: process.cwd() });
async function rules(code: string, filePath: string): Promise<(string | null)[]> {
  const [found] = await lint.lintText(code, { filePath });
  return (found?.messages ?? []).map((m) => m.ruleId);
}

describe("what the linter holds", () => {
  it("no reckoning with and no writing of a quantity's value", async () => {
    const code = `import type { Schemas } from "./client";
      export const a = (q: Schemas["ShownQuantity"]) => q.value > 5;
      export const b = (q: Schemas["ShownQuantity"]) => \`\${q.value}\`;
      export const c = (q: Schemas["ShownQuantity"]) => q.shown;
      export const d = (q: { value: number }) => q.value + 1;`;
    expect(await rules(code, "src/base/time.ts")).toEqual([
      "hurbin/no-quantity-arithmetic",
      "hurbin/no-quantity-arithmetic",
    ]);
  });
  it("no formatting of numbers, and no door but the front", async () => {
    expect(await rules("export const f = (n: number) => n.toFixed(2);", "src/base/time.ts")).toEqual([
      "no-restricted-syntax",
    ]);
    expect(await rules('export * from "../logbook";', "src/plant/queries.ts")).toEqual([
      "no-restricted-imports",
    ]);
    expect(await rules('export { useDraft } from "../base/drafts";', "src/plant/queries.ts")).toEqual([
      "no-restricted-imports",
    ]);
  });
}, 300_000);
