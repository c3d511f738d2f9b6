import { describe, expect, it } from "vitest";
import api from "../../../docs/openapi.json";
import { counted, keptFields, newest, ownFields } from "./standing";

interface Body {
  kind?: string;
  undoes?: string;
  links?: string;
  winding?: { text: string; unit: string };
}
let n = 0;
const e = (body: Body, uuid = `entry-${n++}`) => ({
  uuid,
  taken_at: new Date(1e12 + n * 1000).toISOString(),
  device: "d",
  body,
});
const degrees = (text: string) => ({ text, unit: "degC" });
const FIELDS = ["links", "winding"];

describe("what stands of a sheet", () => {
  it("is the newest word on each field, without what was taken back", () => {
    const wrong = e({ kind: "setup", winding: degrees("99") });
    const entries = [
      e({ kind: "setup", links: "in", winding: degrees("21") }),
      wrong,
      e({ links: "out", winding: degrees(" ") }),
      e({ kind: "undo", undoes: wrong.uuid }),
    ];
    expect(newest(entries, FIELDS)).toEqual({ links: "out", winding: degrees("21") });
    expect(counted(entries)).toHaveLength(2);
  });
  it("leaves out what is only tried in pencil", () =>
    expect(newest([e({ kind: "try", links: "in" })], FIELDS, ["try"])).toEqual({}));
});

describe("what the core says of a field", () => {
  const schema = { $defs: api.components.schemas };
  it("tells with what it is kept, and in which kind of entry it is said by itself", () => {
    const kept = keptFields({ $defs: { PassRead: api.components.schemas.PassRead } });
    expect(kept.get("x_front")).toEqual({ kept: "set", saidIn: "" });
    expect(kept.get("soft_front_left")).toEqual({ kept: "visit", saidIn: "" });
    expect(kept.get("guard_on")).toEqual({ kept: "visit", saidIn: "fit" });
    expect(kept.has("step_12")).toBe(false);
  });
  it("names what counts for one entry alone", () => {
    expect(ownFields(schema, "moved")).toEqual(expect.arrayContaining(["pushed_front", "pack_rear_left"]));
    expect(ownFields(schema, "moved")).not.toContain("x_front");
    expect(ownFields(schema, "no such kind")).toEqual([]);
  });
});
