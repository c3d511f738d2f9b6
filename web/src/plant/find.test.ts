import { describe, expect, it } from "vitest";
import { findSets } from "./queries";

const sets = [
  { tag: "ARC-12", name: "Arcade loop", place: "Cellar", nickname: "" },
  { tag: "BAY-03", name: "Bay lift", place: "North arcade", nickname: "the gulper" },
  { tag: "CEL-01", name: "Feed", place: "Roof", nickname: "" },
];
const found = (text: string) => findSets(sets, text).map((s) => s.tag);

describe("finding a set by three letters", () => {
  it("puts the tag before the nickname before the place", () => {
    expect(found("arc")).toEqual(["ARC-12", "BAY-03"]);
    expect(found("gul")).toEqual(["BAY-03"]);
    expect(found("cel")).toEqual(["CEL-01", "ARC-12"]);
  });
  it("takes several words together, and nothing for nothing", () => {
    expect(found("bay nor")).toEqual(["BAY-03"]);
    expect(found("bay roof")).toEqual([]);
    expect(found("  ")).toEqual([]);
  });
});
