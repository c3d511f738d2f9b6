// @vitest-environment node
/// <reference types="node" />
import { globSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const read = (pattern: string) =>
  globSync(pattern, { cwd: "src" }).map((name) => ({ name, text: readFileSync(`src/${name}`, "utf8") }));
const plain = (scss: string) => scss.replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, "").replace(/url\([^)]*\)/g, "");
/** The classes of a sheet's selectors: what stands before a brace. */
const classesOf = (scss: string) =>
  new Set([...plain(scss).matchAll(/([^;{}]*)\{/g)].flatMap(([, s]) => s?.match(/\.[a-zA-Z][\w-]*/g) ?? []));
const theme = read("theme/_*.scss").map(({ name, text }) => ({ name, classes: classesOf(text) }));
const shared = new Set(theme.flatMap(({ classes }) => [...classes]));
/** What Bootstrap's and the plot's own parts are called, and a verdict's colour, which a drawing puts together. */
const NAMED_ELSEWHERE = /^\.(modal-|u-|v-)/;
const roomOf = (name: string) => name.split("/").slice(0, name.split("/").length - 1)[0] ?? "app";
const rooms = (cls: string) => {
  const word = new RegExp(`["\`\\s}]${cls.slice(1)}["\`\\s$]`);
  const said = /[cC]lass(Name)?=("[^"]*"|\{[^}]*(\{[^}]*\}[^}]*)*\})|\? ["`][^"`]*["`]|: ["`][^"`]*["`]/g;
  return new Set(
    read("**/*.tsx")
      .filter(({ text }) => (text.match(said) ?? []).some((s) => word.test(s)))
      .map(({ name }) => roomOf(name)),
  );
};

describe("a class of the theme", () => {
  it("has one sheet that says what it is", () => {
    const heads = theme.map(({ name }) => {
      const text = plain(readFileSync(`src/${name}`, "utf8"));
      return new Set([...text.matchAll(/^(\.[a-zA-Z][\w-]*)/gm)].map(([, cls]) => cls));
    });
    for (const cls of shared) expect([cls, heads.filter((h) => h.has(cls)).length < 2]).toEqual([cls, true]);
  });
  it("is a word of more than one room: what one room alone says stands beside its drawing", () => {
    const alone = [...shared].filter((cls) => !NAMED_ELSEWHERE.test(cls) && rooms(cls).size < 2);
    expect(alone).toEqual([]);
  });
  it("means nothing else in a room's own sheet", () => {
    for (const { name, text } of read("**/*.module.scss")) {
      const own = classesOf(text.replace(/:global\([^)]*\)/g, ""));
      expect([name, [...own].filter((cls) => shared.has(cls))]).toEqual([name, []]);
    }
  });
});
