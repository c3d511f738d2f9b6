import { describe, expect, it } from "vitest";
import { DeviceClock } from "./clock";

const iso = (ms: number) => new Date(ms).toISOString();

describe("a device's clock", () => {
  let date = 1_000_000;
  let steady = 0;
  const pass = (ms: number, set = 0) => {
    date += ms + set;
    steady += ms;
  };
  it("is measured by the middle of asking and hearing, kept while it goes on, and measured again when it was set", () => {
    const clock = new DeviceClock(
      () => date,
      () => steady,
    );
    expect(clock.measure(iso(date + 600_000), date - 100, date + 100)).toBe(true);
    expect(clock.off).toBe(600_000);
    pass(60_000);
    expect(clock.measure(iso(date + 600_400), date, date + 20)).toBe(false);
    expect(clock.off).toBe(600_000);
    pass(10, -300_000);
    expect(clock.jumped()).toBe(true);
    expect(clock.measure(iso(date + 900_000), date, date)).toBe(true);
    expect(clock.off).toBe(900_000);
  });
  it("is measured again when the first answer took long", () => {
    const clock = new DeviceClock(
      () => date,
      () => steady,
    );
    clock.measure(iso(date), date - 5000, date);
    expect(clock.measure(iso(date), date - 40, date)).toBe(true);
    expect(clock.off).toBe(20);
  });
});
