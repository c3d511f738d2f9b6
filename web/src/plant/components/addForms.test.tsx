import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { ReactElement } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "../../base";
import { catchWrites, writes } from "../../base/test-writes";
import type { Site } from "../queries";
import { AddService, AddSets, ServiceForm, SiteForm } from "./AddForms";

vi.mock("../../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ines", locale: "en-GB", units: {} }),
}));
vi.mock("../queries", () => ({
  useKinds: () => ({
    data: {
      time_zones: ["Europe/Lisbon", "UTC"],
      serves: [
        { id: "other", title: "other" },
        { id: "life", title: "life support" },
      ],
      kinds: [
        { id: "base_mounted", title: "Base-mounted", posture: "flat", slots: ["motor", "pump"] },
        { id: "wet_rotor", title: "Wet-rotor circulator", posture: "upright", slots: ["motor", "pump"] },
      ],
    },
  }),
}));
vi.mock("./Train", () => ({ Train: ({ label }: { label: string }) => <p>drawn: {label}</p> }));
const { sent } = writes;
beforeEach(() => {
  catchWrites();
  writes.answer = { id: 12 };
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const show = (form: ReactElement) =>
  render(<QueryClientProvider client={new QueryClient()}>{form}</QueryClientProvider>);
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const value = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;
const go = async (word: string) => {
  const before = sent.length;
  fireEvent.click(screen.getByRole("button", { name: word }));
  await waitFor(() => expect(sent.length).toBe(before + 1));
};
const stale = (now: Record<string, unknown>) =>
  new ApiError(409, "stale", "Somebody saved this meanwhile.", [], now);
const SITE = (id: number) =>
  ({ id, code: "AQ", name: "Aquarium", time_zone: "UTC", altitude_m: 12, version: 3 }) as unknown as Site;

describe("a site", () => {
  it("is made with its zone; an altitude that nobody knows is none", async () => {
    const done = vi.fn();
    show(<SiteForm done={done} />);
    type("Code", "AQ");
    type("Name", "Aquarium");
    type("Time zone", "Europe/Lisbon");
    await go("Add site");
    expect(sent[0]).toMatchObject({
      ...{ method: "POST", path: "/api/v1/sites" },
      body: { code: "AQ", name: "Aquarium", time_zone: "Europe/Lisbon", altitude_m: null },
    });
    await waitFor(() => expect(done).toHaveBeenCalledWith(12));
  });
  it("that somebody else saved meanwhile is told whole, and is taken whole", async () => {
    writes.refuse = stale({
      code: "AQ",
      name: "Ocean hall",
      time_zone: "Europe/Lisbon",
      altitude_m: 40,
      version: 4,
    });
    show(<SiteForm old={SITE(5)} done={vi.fn()} />);
    type("Altitude, m", "15");
    await go("Save site");
    expect(
      await screen.findByText(/name: Ocean hall; time zone: Europe\/Lisbon; altitude, m: 40/),
    ).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Use saved version" }));
    expect([value("Name"), value("Time zone"), value("Altitude, m")]).toEqual([
      ...["Ocean hall", "Europe/Lisbon", "40"],
    ]);
    writes.refuse = null;
    await go("Save site");
    expect(sent[1]?.body).toMatchObject({ version: 4, altitude_m: "40" });
  });
  it("is saved as mine over it, where I say so", async () => {
    writes.refuse = stale({ code: "AQ", name: "Ocean hall", time_zone: "UTC", altitude_m: 40, version: 4 });
    show(<SiteForm old={SITE(6)} done={vi.fn()} />);
    type("Altitude, m", "15");
    await go("Save site");
    fireEvent.click(await screen.findByRole("button", { name: "Keep mine" }));
    writes.refuse = null;
    await go("Save site");
    expect(sent[1]?.body).toMatchObject({ version: 4, name: "Aquarium", altitude_m: "15" });
  });
  it("says at the field what is wrong with it", async () => {
    const problem = { code: "x", field: "altitude_m", value: "high", message: "Enter metres.", right: "12" };
    writes.refuse = new ApiError(400, "altitude_wrong", "The site cannot be so.", [problem]);
    show(<SiteForm old={SITE(7)} done={vi.fn()} />);
    type("Altitude, m", "high");
    await go("Save site");
    await screen.findAllByText(/Enter metres/);
    const field = screen.getByLabelText("Altitude, m").closest(".field");
    expect(field?.textContent).toContain("Enter metres.");
    expect(value("Altitude, m")).toBe("high");
  });
});

describe("a service", () => {
  it("is asked for at once where there is none yet, else when it is wanted", () => {
    show(<AddService siteId={1} count={0} />);
    expect(screen.getByLabelText("Service code")).toBeTruthy();
    cleanup();
    show(<AddService siteId={2} count={3} />);
    expect(screen.queryByLabelText("Service code")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Add a service" }));
    expect(screen.getByLabelText("Service code")).toBeTruthy();
  });
  it("goes to the end of the order, with how often it is checked and what its failure costs", async () => {
    show(<AddService siteId={3} count={4} />);
    fireEvent.click(screen.getByRole("button", { name: "Add a service" }));
    type("Service code", "KELP");
    type("Service name", "Kelp forest");
    type("What it serves", "life");
    type("Consequence of failure", "3");
    await go("Add service");
    expect(sent[0]).toMatchObject({
      ...{ method: "POST", path: "/api/v1/sites/3/services" },
      body: {
        ...{ code: "KELP", name: "Kelp forest", serves: "life", consequence: "3" },
        ...{ check_every_days: "35", place_in_order: 4 },
      },
    });
    await waitFor(() => expect(screen.queryByLabelText("Service code")).toBeNull());
  });
  it("shows what another saved, by the names of its form", async () => {
    const old = { id: 8, code: "KELP", name: "Kelp", note: "", check_every_days: 35, version: 1 };
    writes.refuse = stale({
      code: "KELP",
      name: "Kelp",
      note: "one runs",
      check_every_days: 14,
      consequence: 3,
    });
    const whole = { ...old, consequence: 2, serves: "other" } as unknown as Schemas["ServiceOut"];
    show(<ServiceForm siteId={4} place={0} old={whole} done={vi.fn()} />);
    type("Service name", "Kelp forest");
    await go("Save service");
    const told = await screen.findByText(/Saved by someone else:/);
    expect(told.parentElement?.textContent).toContain("running check interval, days: 14");
    expect(told.parentElement?.textContent).toContain("consequence of failure: 3");
    fireEvent.click(screen.getByRole("button", { name: "Use saved version" }));
    expect([value("Service name"), value("Operating note")]).toEqual(["Kelp", "one runs"]);
    expect([value("Running check interval, days"), value("Consequence of failure")]).toEqual(["14", "3"]);
  });
});

describe("sets", () => {
  it("come in a pair under two tags, of one kind and one control", async () => {
    show(<AddSets serviceId={9} pair done={vi.fn()} />);
    expect(screen.queryByLabelText("Nickname")).toBeNull();
    type("Duty set tag", "KELP-21");
    type("Standby set tag", "KELP-22");
    type("Motor control", "drive");
    await go("Add pair");
    expect(sent[0]).toMatchObject({
      ...{ method: "POST", path: "/api/v1/services/9/pairs" },
      body: { duty_tag: "KELP-21", standby_tag: "KELP-22", kind: "base_mounted", control: "drive" },
    });
  });
  it("come alone, drawn as the kind that is chosen", async () => {
    show(<AddSets serviceId={10} pair={false} done={vi.fn()} />);
    type("Tag", "CAFE-06");
    type("Type", "wet_rotor");
    expect(screen.getByText("drawn: Wet-rotor circulator")).toBeTruthy();
    type("Nickname", "the quiet one");
    await go("Add set");
    expect(sent[0]).toMatchObject({
      ...{ path: "/api/v1/services/10/sets" },
      body: { tag: "CAFE-06", kind: "wet_rotor", role: "single", pair: "", nickname: "the quiet one" },
    });
  });
  it("say at the tag that it is used", async () => {
    const problem = { code: "x", field: "standby_tag", value: "K-2", message: "Used already.", right: "" };
    writes.refuse = new ApiError(409, "tag_used", "No.", [problem]);
    show(<AddSets serviceId={11} pair done={vi.fn()} />);
    type("Standby set tag", "K-2");
    await go("Add pair");
    await screen.findAllByText(/Used already/);
    expect(screen.getByLabelText("Standby set tag").closest(".field")?.textContent).toContain(
      "Used already.",
    );
  });
});
