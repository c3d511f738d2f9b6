import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { SetOut } from "../plant";
import { Gate } from "./components";
import { ProofPanel } from "./ProofPanel";
import { proofSteps } from "./proofSteps";
import type { SetSafety } from "./queries";
import { Stops } from "./Stops";

let answer: { data?: unknown; error: unknown; fetchStatus?: string } = { error: null };
let connected = true;
const sent: unknown[][] = [];
vi.mock("../base", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "tia", locale: "en-GB", hand: "right" }),
  useNarrow: () => false,
  useSession: () => ({ connected, now: () => new Date() }),
  useGet: (path: string) => (path.includes("words") ? { data: {} } : answer),
  useSmallForm: (_: string, start: Record<string, unknown>) => ({
    v: { ...start, limits: "over 20 A" },
    set: vi.fn(),
    error: null,
    busy: false,
    send: (...args: unknown[]) => {
      sent.push(args);
      return Promise.resolve(true);
    },
  }),
}));
vi.mock("../plant", async (real) => ({ ...(await real<object>()), useSites: () => ({ data: [] }) }));
afterEach(() => {
  cleanup();
  localStorage.clear();
  sent.length = 0;
  connected = true;
});

const offers = [{ act: "insulation_test", offered: true, shut: [], waived: [], trial: null }];
describe("a gate fails closed", () => {
  const gate = (act = "insulation_test") =>
    render(
      <MemoryRouter>
        <Gate setId={7} act={act} what="Volts on" seen="">
          {(offered) => <p>{offered ? "go" : "no"}</p>}
        </Gate>
      </MemoryRouter>,
    );
  it.each([
    [
      "without a connection, whatever it said before",
      { data: { offers }, error: null, fetchStatus: "paused" },
    ],
    ["when the last answer failed", { data: { offers }, error: new Error("gone") }],
    ["while it loads", { error: null }],
    ["when it cannot be fetched", { error: new Error("gone") }],
    ["for a step nobody knows", { data: { offers: [] }, error: null }],
  ])("%s", (_, given) => {
    answer = given;
    gate();
    expect(screen.getByText("no")).toBeTruthy();
    expect(screen.queryByText("go")).toBeNull();
  });
  it("as soon as nobody answers any more, though what it said last is still there", () => {
    connected = false;
    answer = { data: { offers }, error: null };
    gate();
    expect(screen.queryByText("go")).toBeNull();
    expect(screen.getByTestId("gate-unknown")).toBeTruthy();
  });
  it("at the moment at which a gate set aside or a trial run is over", () => {
    answer = { data: { offers, until: new Date(Date.now() - 1000).toISOString() }, error: null };
    gate();
    expect(screen.queryByText("go")).toBeNull();
    cleanup();
    answer = { data: { offers, until: new Date(Date.now() + 60_000).toISOString() }, error: null };
    gate();
    expect(screen.getByText("go")).toBeTruthy();
  });
  it("and opens when the server says so", () => {
    answer = { data: { offers }, error: null };
    gate();
    expect(screen.getByText("go")).toBeTruthy();
    expect(screen.queryByTestId("gate-unknown")).toBeNull();
  });
});

describe("stops and the trial run", () => {
  const set = { id: 7, tag: "A-1", site_id: 1, may: "lead" } as unknown as SetOut;
  const stop = (more: object = {}) => ({
    question: "load",
    title: "Load on the worst leg",
    says: "26 A is 130 % of plate.",
    ends: "Record the repair.",
    trial: true,
    waits: "",
    ...more,
  });
  const show = (stops: object[], trials: object[] = [], lead = true) =>
    render(<Stops set={set} safety={{ stops, trials } as unknown as SetSafety} lead={lead} />);
  it("says of each what ends it, and releases only for a lead with every repair on record", () => {
    show([stop()]);
    fireEvent.click(screen.getByRole("button", { name: "release a trial run" }));
    fireEvent.click(screen.getByRole("button", { name: "Release trial run" }));
    expect(sent[0]?.slice(0, 3)).toEqual([
      "POST",
      expect.stringMatching(/^\/api\/v1\/sets\/7\/trials\//),
      { limits: "over 20 A", minutes: 10 },
    ]);
  });
  it.each([
    ["a repair is not on record", [stop({ waits: "a recorded repair" })], [], true],
    ["one of them is never tried out", [stop(), stop({ question: "insulation", trial: false })], [], true],
    [
      "one is released already",
      [stop()],
      [
        {
          uuid: "t",
          limits: "smoke",
          minutes: 5,
          by: "Leo",
          at: "2026-03-02T07:00:00Z",
          until: "2026-03-02T19:00:00Z",
        },
      ],
      true,
    ],
    ["it is not a lead", [stop()], [], false],
  ])("offers none where %s", (_, stops, trials, lead) => {
    show(stops, trials, lead);
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.getByTestId("stops").textContent).toContain("What ends it");
  });
});

describe("a proof has readings of its own", () => {
  const safety = (sheet: string, state: string, begun = ""): SetSafety =>
    ({
      set_id: 7,
      tag: "A-1",
      isolation: {
        sheet,
        proof: {
          state,
          why: "",
          tester: "T1",
          acts: begun ? { live_before: begun } : {},
          steps: proofSteps(state, ["v12", "v1g"]),
        },
      },
    }) as unknown as SetSafety;
  const add = vi.fn(() => Promise.resolve(true));
  const shown = (...of: Parameters<typeof safety>) => (
    <ProofPanel safety={safety(...of)} add={add} refusal={null} />
  );
  const type = (label: string, value: string) =>
    fireEvent.change(screen.getByLabelText(label), { target: { value } });
  const reads = (label: string, value: string) =>
    vi.waitFor(() => expect(screen.getByLabelText(label)).toHaveProperty("value", value));
  it("zeros of one sheet never stand on the next, nor those of a proof that is begun again", async () => {
    render(shown("one", "begun", "09:00"));
    type("L1 to L2", "0");
    await reads("L1 to L2", "0");
    cleanup();
    render(shown("two", "begun", "09:00"));
    await reads("L1 to L2", "");
    cleanup();
    const again = render(shown("one", "void"));
    type("tester", "T1");
    type("Voltage on known live source", "398");
    fireEvent.click(screen.getByRole("button", { name: "Save live reading" }));
    await vi.waitFor(() => expect(add).toHaveBeenCalled());
    again.rerender(shown("one", "begun", "09:20"));
    await reads("L1 to L2", "");
    again.rerender(shown("one", "void"));
    await reads("Voltage on known live source", "");
  });
  it("nor those of a proof that somebody else began anew meanwhile", async () => {
    const page = render(shown("three", "begun", "09:00"));
    type("L1 to L2", "0");
    page.rerender(shown("three", "begun", "09:30"));
    await reads("L1 to L2", "");
    page.rerender(shown("three", "begun", "09:00"));
    await reads("L1 to L2", "");
  });
  it("keeps a figure that could not be read where it was typed", async () => {
    const page = render(shown("four", "none"));
    type("tester", "T1");
    type("Voltage on known live source", "39 8");
    fireEvent.click(screen.getByRole("button", { name: "Save live reading" }));
    page.rerender(shown("four", "void"));
    await reads("Voltage on known live source", "39 8");
    await reads("tester", "T1");
  });
});
