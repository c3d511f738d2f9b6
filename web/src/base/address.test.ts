import { describe, expect, it } from "vitest";
import { address, type Answer, type Body, type EntryBody, type ShownBy } from "./address";
import { outbox } from "./outbox";
import type { Schemas } from "./client";

describe("an address", () => {
  it("is filled with what it names, made fit for an address", () => {
    expect(address("/api/v1/sets/{set_id}/changes", { set_id: 7 })).toBe("/api/v1/sets/7/changes");
    const person = { site_id: 3, username: "tia/ada?" };
    expect(address("/api/v1/sites/{site_id}/people/{username}", person)).toBe(
      "/api/v1/sites/3/people/tia%2Fada%3F",
    );
    expect(address("/api/v1/sites", {})).toBe("/api/v1/sites");
  });
  it("says what may be written to it and what comes back: the compiler holds these, not the run", () => {
    const off = address("/api/v1/changes/{uuid}/off", { uuid: "u" });
    const writes = () => {
      void outbox.write("POST", off, { note: "restored" }, "off");
      // @ts-expect-error a field that is called otherwise
      void outbox.write("POST", off, { notes: "restored" }, "off");
      // @ts-expect-error a field that is lacking
      void outbox.write("POST", off, {}, "off");
      // @ts-expect-error nobody puts there
      void outbox.write("PUT", off, { note: "restored" }, "off");
      // @ts-expect-error an address of nothing
      void outbox.write("POST", "/api/v1/changes/u/of", { note: "restored" }, "off");
      // @ts-expect-error a name that this address does not hold
      void address("/api/v1/changes/{uuid}/off", { id: "u" });
    };
    expect(writes).toBeTypeOf("function");
    const typed: Body<"/api/v1/sites/{site_id}/overrides", "POST">["value"] = "0,5";
    const made: Answer<"/api/v1/sites/{site_id}/components", "POST">["id"] = 4;
    const told: Schemas["ComponentOut"]["id"] = made;
    expect([typed, told]).toEqual(["0,5", 4]);
  });
  it("types what a bench's entries say and what it answers: the compiler holds these as well", () => {
    const setup: EntryBody<"insulation"> = { kind: "setup", links: "in" };
    // @ts-expect-error a field that is called otherwise
    const named: EntryBody<"insulation"> = { kind: "setup", linked: "in" };
    // @ts-expect-error a word that the core does not take
    const worded: EntryBody<"insulation"> = { kind: "setup", links: "both" };
    // @ts-expect-error a kind of entry that there is not
    const kind: EntryBody<"alignment"> = { kind: "setup" };
    const clock: keyof ShownBy<"insulation">["view"] = "clocks";
    expect([setup.links, named.kind, worded.kind, kind.kind, clock]).toHaveLength(5);
  });
});
