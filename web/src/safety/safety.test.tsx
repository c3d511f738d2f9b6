import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Parcel } from "../base";
import { GateBox, MatterBox, Tags } from "./components";
import { IsolationDrawing } from "./make_safe/IsolationDrawing";
import { initials, sentence, waitsFor } from "./logic";
import { ProofPanel } from "./ProofPanel";
import { proofSteps } from "./proofSteps";
import type { Offer } from "./Steps";
import { pendingOf, type Matter, type SetSafety, type Source, type Tag } from "./queries";

vi.mock("../base", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "tia", full_name: "Tia", hand: "right" }),
  useNarrow: () => false,
  useGet: () => ({ data: {} }),
}));
beforeEach(() => localStorage.clear());
afterEach(cleanup);

const lock = (by: string, mine = false) => ({
  id: `lock-${by}`,
  by,
  at: "2026-03-02T07:00:00Z",
  number: "",
  mine,
  age: "3 h",
});
const source = (more: Partial<Source> = {}): Source => ({
  id: "q1",
  kind: "supply",
  title: "Supply",
  family: "electrical",
  device: "isolator Q1",
  place: "panel A",
  means: "isolator",
  lock_how: "",
  try_out: "",
  sister: "",
  feeds: "",
  tell: "",
  must: true,
  why: "",
  complaint: "",
  shut: null,
  locks: [],
  release: "",
  read: false,
  released: null,
  left: "",
  counts: false,
  next: null,
  ...more,
});
const shut = { by: "Ada", at: "2026-03-02T07:00:00Z", words: "" };

describe("small words", () => {
  it("writes initials and sentences", () => {
    expect(initials("Teodor Mbeki-Lund")).toBe("TM");
    expect([sentence("dry"), sentence("dry. "), sentence(" ")]).toEqual(["dry.", "dry.", ""]);
  });
});

describe("what was said without a signal", () => {
  const parcel = (path: string, set_id: number, body: object): Parcel => ({
    id: "p",
    user: "tia",
    method: "POST",
    path,
    body: { set_id, entries: [{ body }] },
    label: "",
    made: 1,
    key: "k",
    offset: 0,
    failed: 0,
    after: 0,
  });
  const mine = parcel("/api/v1/benches/make_safe/sheets/sheet-1/entries", 7, { kind: "lock", source: "q1" });
  it("is told from the parcels of other sets and benches", () => {
    const others = [
      parcel("/api/v1/benches/make_safe/sheets/sheet-2/entries", 8, { kind: "shut", source: "q1" }),
      parcel("/api/v1/benches/insulation/sheets/sheet-1/entries", 7, { kind: "start" }),
    ];
    expect(pendingOf([mine, ...others], 7)).toEqual([
      { sheet: "sheet-1", body: { kind: "lock", source: "q1" }, id: "p" },
    ]);
  });
  it("stands at its own source", () => {
    const pending = pendingOf([mine], 7);
    expect(waitsFor(pending, "q1")).toBe("lock on: not sent yet");
    expect(waitsFor(pending, "f1")).toBe("");
  });
});

describe("the isolation drawing", () => {
  const show = (sources: Source[], more: Partial<Parameters<typeof IsolationDrawing>[0]> = {}) => {
    const onSay = vi.fn(async () => true);
    const onForgotten = vi.fn();
    const { container } = render(
      <IsolationDrawing
        sources={sources}
        may
        pending={[]}
        onSay={onSay}
        sheet="7:sheet-1"
        onForgotten={onForgotten}
        lead={false}
        {...more}
      />,
    );
    return { onSay, onForgotten, container };
  };
  it("draws an open source live, a counting one dead beyond its break, with every lock's initials", () => {
    const { container } = show([
      source(),
      source({
        id: "f1",
        kind: "control_supply",
        title: "Control supply",
        shut,
        locks: [lock("Ada"), lock("Tia", true)],
        counts: true,
      }),
    ]);
    const [open, dead] = [...container.querySelectorAll(".sourceline")];
    expect(open?.classList.contains("live")).toBe(true);
    expect(dead?.querySelector(".beyond.dead")).not.toBeNull();
    expect([...(dead?.querySelectorAll(".lock text") ?? [])].map((t) => t.textContent)).toEqual(["A", "T"]);
    expect(
      screen.getByRole("img", { name: "Control supply: isolated, locked by Ada, locked by Tia" }),
    ).toBeTruthy();
  });
  it("does not draw a break for a means that is no isolation, and says why", () => {
    const { container } = show([source({ shut, complaint: "A check valve alone is no isolation." })]);
    expect(container.querySelectorAll(".beyond").length).toBe(0);
    expect(screen.getByRole("alert").textContent).toContain("check valve alone");
  });
  const offered = (word: string, kind: string, more: Partial<Offer> = {}): Offer => ({
    word,
    entries: [{ kind, source: "q1" }],
    asks: "",
    into: "",
    unit: "",
    optional: false,
    tone: "plain",
    notes: [],
    ...more,
  });
  const offer = offered("My lock on", "lock");
  it("offers what the core offers at a source, and nothing to those who may only look", () => {
    const { onSay } = show([source({ shut, next: offer })]);
    fireEvent.click(screen.getByRole("button", { name: "Supply: My lock on" }));
    expect(onSay).toHaveBeenCalledWith(offer, "");
    cleanup();
    show([source({ next: offer })], { may: false });
    expect(screen.queryByRole("button")).toBeNull();
  });
  it("asks for the figure before it says that something was let out", () => {
    const volts = offered("Let out", "released", { asks: "Residual voltage", into: "reading", unit: "V" });
    const { onSay } = show([source({ next: volts })]);
    fireEvent.click(screen.getByRole("button", { name: "Supply: Let out" }));
    expect(screen.getByRole("button", { name: "Save reading" })).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText("Residual voltage"), { target: { value: "0.3" } });
    fireEvent.keyDown(screen.getByLabelText("Residual voltage"), { key: "Enter" });
    expect(onSay).toHaveBeenCalledWith(expect.objectContaining({ into: "reading" }), "0.3");
  });
  it("keeps what was typed with its own sheet: a figure of an earlier isolation never stands for this one", () => {
    const volts = offered("Let out", "released", { asks: "Residual voltage", into: "reading", unit: "V" });
    show([source({ next: volts })]);
    fireEvent.click(screen.getByRole("button", { name: "Supply: Let out" }));
    fireEvent.change(screen.getByLabelText("Residual voltage"), { target: { value: "0.3" } });
    cleanup();
    show([source({ next: volts })], { sheet: "7:sheet-2" });
    fireEvent.click(screen.getByRole("button", { name: "Supply: Let out" }));
    expect(screen.getByLabelText<HTMLInputElement>("Residual voltage").value).toBe("");
    expect(screen.getByRole("button", { name: "Save reading" })).toHaveProperty("disabled", true);
  });
  it("lets a lead speak of a lock left behind, never of his own", () => {
    const { onForgotten } = show([source({ shut, locks: [lock("Ben"), lock("Tia", true)] })], { lead: true });
    fireEvent.click(screen.getByRole("button", { name: "Remove Ben’s lock (absent)" }));
    expect(onForgotten.mock.calls[0]?.[1].by).toBe("Ben");
    expect(screen.queryByRole("button", { name: /Tia’s lock/ })).toBeNull();
  });
  it("says why the rest need not be shut", () => {
    show([source({ must: false, title: "Gravity", why: "nothing wet is opened" })]);
    expect(screen.getByText(/nothing wet is opened/)).toBeTruthy();
  });
});

describe("the proof in three acts", () => {
  const safety = (state: string, why = ""): SetSafety =>
    ({
      set_id: 7,
      tag: "A-1",
      isolation: {
        proof: { state, why, tester: "T1", acts: {}, steps: proofSteps(state) },
      },
    }) as unknown as SetSafety;
  const show = (state: string, why = "") => {
    const add = vi.fn(() => Promise.resolve(true));
    render(<ProofPanel safety={safety(state, why)} add={add} refusal={null} />);
    return add;
  };
  it("begins with a tester on a known live source", () => {
    const add = show("none");
    const button = screen.getByRole("button", { name: "Save live reading" });
    expect(button).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText("tester"), { target: { value: "T1" } });
    fireEvent.change(screen.getByLabelText("Voltage on known live source"), { target: { value: "398" } });
    fireEvent.click(button);
    expect(add).toHaveBeenCalledWith({
      kind: "proof",
      act: "live_before",
      tester: "T1",
      live_volts: { text: "398", unit: "V" },
    });
  });
  it("asks for every conductor before the second act is said, and fills in none by itself", () => {
    const add = show("begun");
    const button = screen.getByRole("button", { name: "Save dead readings" });
    ["L1 to L2", "L2 to L3", "L3 to L1", "L1 to ground", "L2 to ground"].forEach((p) =>
      fireEvent.change(screen.getByLabelText(p), { target: { value: "0" } }),
    );
    expect(button).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText("L3 to ground"), { target: { value: "0.4" } });
    fireEvent.click(button);
    expect(add).toHaveBeenCalledWith(
      expect.objectContaining({
        act: "dead",
        tester: "T1",
        v12: { text: "0", unit: "V" },
        v3g: { text: "0.4", unit: "V" },
      }),
    );
  });
  it("says aloud why a proof holds no more, and begins again", () => {
    show("void", "Voltage was found: treat as live, prove dead again.");
    expect(screen.getByRole("alert").textContent).toContain("prove dead again");
    expect(screen.getByRole("button", { name: "Save live reading" })).toBeTruthy();
  });
});

describe("gates, tags and matters", () => {
  const tag = (more: Partial<Tag> = {}): Tag => ({
    kind: "isolation",
    id: "1",
    set_id: 7,
    tag: "A-1",
    part: "supply",
    title: "Made safe",
    says: "Locked on: Ada.",
    verdict: "watch",
    since: "2026-03-02T07:00:00Z",
    names: ["Ada"],
    place: "",
    age: "3 h",
    ...more,
  });
  it("a gate says what opens it, and leads there", () => {
    render(
      <MemoryRouter>
        <GateBox
          setId={7}
          what="Volts on"
          offer={{
            act: "insulation_test",
            offered: false,
            shut: [{ gate: "prove_dead", title: "", asks: "Prove dead first.", life: true }],
            waived: [],
          }}
        />
      </MemoryRouter>,
    );
    expect(screen.getByTestId("gate").textContent).toContain("Volts on blocked.");
    expect(screen.getByText("Prove dead first.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Isolate" }).getAttribute("href")).toBe("/sets/7/make-safe");
  });
  it("a tag carries its age and its names; an urgent one is filled", () => {
    const { container } = render(
      <Tags
        small
        tags={[tag(), tag({ id: "2", kind: "change", title: "Jumper", verdict: "act", age: "41 days" })]}
      />,
    );
    expect(screen.getByText("Made safe, 3 h: Ada")).toBeTruthy();
    expect(container.querySelectorAll(".tagshape .solid").length).toBe(1);
  });
  it("a matter says what it threatens and the first minute, and is ended only by those who may", () => {
    const matter: Matter = {
      id: 3,
      set_id: 7,
      tag: "A-1",
      where: "A-1, hall",
      opened_at: "2026-03-02T07:00:00Z",
      age: "20 min",
      ended_at: null,
      ended_by: "",
      found: "",
      done: "",
      verdict: "stop",
      threatens: ["Sewage backs up to the floor."],
      first: ["Stop it.", "Tell whoever is above the drain."],
      many: "",
      calls: [
        {
          uuid: "c",
          complaint: "water",
          title: "Water on the floor",
          note: "gurgles",
          picture: "",
          by: "Pia",
          at: "2026-03-02T07:00:00Z",
          mine: false,
        },
      ],
    };
    render(
      <MemoryRouter>
        <MatterBox matter={matter} may={false} />
      </MemoryRouter>,
    );
    expect(screen.getByTestId("matter").textContent).toMatch(/Sewage backs up.*Stop it\..*Pia: gurgles/);
    expect(screen.queryByRole("button")).toBeNull();
  });
});
