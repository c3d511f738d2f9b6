// @vitest-environment node
/// <reference types="node" />
import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const KEY = /key: "([a-z0-9])", *does/g;
const keysOf = (file: string) => [...readFileSync(file, "utf8").matchAll(KEY)].map((m) => m[1]);
const pages = readdirSync("src", { recursive: true, encoding: "utf8" }).filter(
  (f) => f.endsWith(".tsx") && !f.includes(".test.") && f !== "App.tsx",
);

describe("keys", () => {
  it("do one thing on a page", () => {
    for (const f of pages) {
      const keys = keysOf(`src/${f}`);
      expect([f, keys]).toEqual([f, [...new Set(keys)]]);
    }
  });
  it("of a page never stand where one that works everywhere does", () => {
    const everywhere = new Set(keysOf("src/App.tsx"));
    expect(everywhere.size).toBeGreaterThan(5);
    for (const f of pages) expect([f, keysOf(`src/${f}`).filter((k) => everywhere.has(k))]).toEqual([f, []]);
  });
});
