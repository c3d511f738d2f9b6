import { describe, expect, it } from "vitest";
import { instant, localField } from "./time";

describe("times in the site's zone", () => {
  it("goes there and back on both sides of a clock change", async () => {
    for (const [local, zone, iso] of [
      ["2026-01-15T08:30", "Europe/Lisbon", "2026-01-15T08:30:00.000Z"],
      ["2026-07-15T08:30", "Europe/Lisbon", "2026-07-15T07:30:00.000Z"],
      // The hour itself: Lisbon goes from 01:00 to 02:00 at 01:00 UTC on 29 March, and back from 02:00 to
      // 01:00 on 25 October.
      ["2026-03-29T00:59", "Europe/Lisbon", "2026-03-29T00:59:00.000Z"],
      ["2026-03-29T02:00", "Europe/Lisbon", "2026-03-29T01:00:00.000Z"],
      ["2026-10-25T00:59", "Europe/Lisbon", "2026-10-24T23:59:00.000Z"],
      ["2026-10-25T02:00", "Europe/Lisbon", "2026-10-25T02:00:00.000Z"],
      ["2026-07-15T23:10", "America/Los_Angeles", "2026-07-16T06:10:00.000Z"],
    ] as const) {
      expect(await instant(local, zone)).toBe(iso);
      expect(localField(new Date(iso), zone)).toBe(local);
    }
  });
  it("takes the first of an hour that came twice, and refuses one that the clocks left out", async () => {
    expect(await instant("2026-10-25T01:30", "Europe/Lisbon")).toBe("2026-10-25T00:30:00.000Z");
    await expect(instant("2026-03-29T01:30", "Europe/Lisbon")).rejects.toThrow(
      "01:30 did not happen on 2026-03-29: the clocks went forward over it.",
    );
  });
});
