import { describe, expect, it } from "vitest";
import { alongLine, besideLine, placeWords, type Box } from "./plotWords";

const ROOM: Box = { x: 50, y: 0, w: 250, h: 100 };
const limit = (y: number, w: number) => ({ w, h: 14, at: alongLine(y, w, 14, 54, 298) });
const event = (x: number, w: number) => ({ w, h: 14, at: besideLine(x, w, 14, 2, 98) });
const apart = (boxes: (Box | null)[]) => {
  const there = boxes.filter((b): b is Box => b !== null);
  for (const [i, a] of there.entries())
    for (const b of there.slice(i + 1))
      if (a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h) return false;
  return there.every((b) => b.x >= 50 && b.x + b.w <= 300 && b.y >= 0 && b.y + b.h <= 100);
};

describe("words on a plot", () => {
  it("stands over its line, at the left", () => {
    expect(placeWords([limit(60, 80)], ROOM)).toEqual([{ x: 54, y: 45, w: 80, h: 14 }]);
  });
  it("keeps two limits of nearly one figure apart, and under the upper edge", () => {
    const two = placeWords([limit(8, 120), limit(11, 120)], ROOM);
    expect(two.every(Boolean)).toBe(true);
    expect(apart(two)).toBe(true);
    expect(two[0]?.y).toBeGreaterThan(8);
  });
  it("keeps events of one week, and one at the right edge, apart from one another and from a limit", () => {
    const all = placeWords([limit(12, 200), event(100, 90), event(103, 120), event(295, 90)], ROOM);
    expect(all.every(Boolean)).toBe(true);
    expect(apart(all)).toBe(true);
    expect(all[3]!.x + 90).toBeLessThan(295);
  });
  it("draws none that has no place of its own", () => {
    const many = placeWords(
      Array.from({ length: 60 }, (_, i) => limit(40 + (i % 3), 240)),
      ROOM,
    );
    expect(apart(many)).toBe(true);
    expect(many.filter(Boolean).length).toBeLessThan(60);
    expect(placeWords([limit(50, 300)], ROOM)).toEqual([null]);
  });
});
