import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter, useLocation } from "react-router";
import { useState } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Given } from "../../safety";
import { Opening } from "./Opening";
import { Prepare } from "./Prepare";
import type { Job, View } from "./useJob";

const state = { parts: [] as object[], due: [] as object[] };
const safety = { matters: [] as object[] };
vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useGet: () => ({
    data: {
      procedures: [
        { id: "J05", version: 2, title: "Seal, as here", own: true, kinds: ["close_coupled"], reason: "" },
        {
          id: "OWN-1",
          version: 1,
          title: "Our strainer",
          own: true,
          kinds: ["close_coupled"],
          reason: "ours",
        },
        { id: "OWN-2", version: 1, title: "Other kind", own: true, kinds: ["vacuum"], reason: "" },
      ],
    },
    isPending: false,
  }),
  CsvFiles: ({ label }: { label: string }) => <span>{label}</span>,
}));
vi.mock("../../logbook", () => ({ useSetState: () => ({ data: state }) }));
vi.mock("../../safety", () => ({
  useSetSafety: () => ({ data: safety }),
  NamedFigure: ({ name }: { name: string }) => <span>figure {name}</span>,
}));
afterEach(cleanup);
beforeEach(() => {
  state.parts = [
    {
      answers: [
        { question: "leak", subject: "", title: "Leak", verdict: "act" },
        { question: "load", subject: "L1", title: "Load", verdict: "good" },
        { question: "noise", subject: "", title: "Noise", verdict: "unknown" },
      ],
    },
  ];
  state.due = [
    { bench: "vibration", title: "Vibration", overdue: true },
    { bench: "insulation", title: "Insulation test", overdue: false },
  ];
  safety.matters = [{ id: 9, verdict: "watch", calls: [{ title: "Strange noise" }] }];
});

const given = { set: { id: 7, kind: "close_coupled", site_id: 1 } } as unknown as Given;
function Page({ said, writes = true }: { said: unknown[]; writes?: boolean }) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const view = { offered: [{ id: "J05", title: "Seal", why: "It drips." }] };
  const job = {
    view,
    typed,
    put: (name: string, value: string) => setTyped((t) => ({ ...t, [name]: value })),
    forget: (...names: string[]) =>
      setTyped((t) => Object.fromEntries(Object.entries(t).filter(([n]) => !names.includes(n)))),
    say: (body: unknown) => said.push(body),
    tools: { writes },
  } as unknown as Job;
  return (
    <>
      <Opening job={job} given={given} />
      <output>{useLocation().search}</output>
    </>
  );
}
const show = (at = "/sets/7/job", writes = true) => {
  const said: unknown[] = [];
  render(
    <MemoryRouter initialEntries={[at]}>
      <Page said={said} writes={writes} />
    </MemoryRouter>,
  );
  return said;
};
const because = () => screen.getByLabelText<HTMLInputElement>("What is wrong, in a few words").value;

describe("a job that is opened", () => {
  it("offers what stands on the set: what is wrong, called or overdue, and nothing that is good or unknown", () => {
    show();
    const list = screen.getByRole("list", { name: "Open on this set" });
    expect([...list.querySelectorAll("button")].map((b) => b.textContent.trim())).toEqual([
      "Leak: act",
      "Strange noise",
      "Vibration overdue",
    ]);
  });
  it("carries what was tapped, and which it was, into its first entry", () => {
    const said = show();
    fireEvent.click(screen.getByRole("button", { name: /Strange noise/ }));
    expect(because()).toBe("Strange noise");
    fireEvent.click(screen.getAllByRole("button", { name: "Open this job" })[0] as HTMLElement);
    expect(said).toEqual([
      {
        kind: "open",
        procedure: "J05",
        version: 2,
        because: "Strange noise",
        source: "call",
        of: "9",
        set_kind: "close_coupled",
      },
    ]);
    expect(because()).toBe("");
  });
  it("takes from the address what another page opened it for, once", () => {
    show("/sets/7/job?from=verdict&of=leak%2F&says=Leak%3A+act");
    expect(because()).toBe("Leak: act");
    expect(screen.getByRole("button", { name: /Leak: act/ }).getAttribute("aria-pressed")).toBe("true");
    expect(screen.getByRole("status").textContent).toBe("");
  });
  it("believes no address that says something else", () => {
    show("/sets/7/job?from=nowhere&says=%3Cb%3Eboo");
    expect(because()).toBe("");
  });
  it("forgets which it was when its source is set by hand", () => {
    const said = show();
    fireEvent.click(screen.getByRole("button", { name: /Leak: act/ }));
    fireEvent.change(screen.getByLabelText("Opened from"), { target: { value: "hand" } });
    fireEvent.click(screen.getAllByRole("button", { name: "Open this job" })[0] as HTMLElement);
    expect(said).toEqual([expect.objectContaining({ source: "hand", of: "", because: "Leak: act" })]);
  });
  it("lists the site's own procedures of this kind of set, in their titles", () => {
    show();
    const rows = [...document.querySelectorAll("[data-procedure]")].map((x) =>
      x.getAttribute("data-procedure"),
    );
    expect(rows).toEqual(["J05", "OWN-1"]);
    expect(screen.getByText("Seal, as here")).toBeTruthy();
  });
  it("is not opened by who may only look", () => {
    show("/sets/7/job", false);
    expect(screen.queryByRole("button", { name: "Open this job" })).toBeNull();
  });
});

describe("before leaving", () => {
  const kit = (more: object) => ({
    kind: "seal_set",
    title: "seal set",
    wanted: 1,
    reserved: 0,
    used: 0,
    short: 0,
    lots: [{ place: "Shelf 1", free: 2, emergency: false }],
    takes: [],
    ...more,
  });
  const pick = (more: object) => ({
    kit: [],
    kit_title: "",
    tools: ["dial"],
    sizes: "",
    consumables: [],
    lifting: false,
    weather: null,
    people: 2,
    time: "2 h",
    time_from: "procedure",
    scopes: ["Coupling"],
    due: [],
    ...more,
  });
  const at = (more: object, asks: object[] = []) => {
    const said: unknown[] = [];
    const view = {
      refuses: [],
      asks,
      pick: pick(more),
      pair: null,
      done: 0,
      owner: "",
      waits: "",
      restarts: "",
    };
    const job = {
      typed: {},
      put: vi.fn(),
      forget: vi.fn(),
      say: (body: unknown) => said.push(body),
      tools: { writes: true, given },
    } as unknown as Job;
    const start = vi.fn();
    render(<Prepare job={job} view={view as unknown as View} start={start} />);
    return { said, start };
  };
  it("reserves what the core says, whole for each place", () => {
    const takes = [
      { code: "S-16", place: "Shelf 1", reserved: 2, used: 0 },
      { code: "S-16", place: "Van 1", reserved: 1, used: 1 },
    ];
    const { said } = at({ kit: [kit({ takes })] });
    fireEvent.click(screen.getByRole("button", { name: "Reserve what is there" }));
    expect(said).toEqual(takes.map((t) => ({ kind: "part", ...t })));
  });
  it("says what is short, and reserves nothing where nothing is left", () => {
    at({ kit: [kit({ short: 1, lots: [] })] });
    expect(screen.getByText("1 short")).toBeTruthy();
    expect(screen.getByText("none in store")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Reserve what is there" }).disabled).toBe(
      true,
    );
  });
  it("says whether the weather will do, and takes a forecast there", () => {
    const weather = { wants: "dry for 2 h by day", verdict: "unknown", says: "No forecast on file." };
    at({ weather });
    expect(screen.getByText(/No forecast on file/).dataset.weather).toBe("unknown");
    expect(screen.getByText("Forecast file")).toBeTruthy();
  });
  it("begins only when nothing is asked any more", () => {
    at({}, [{ field: "roof", says: "Is it on a roof?" }]);
    expect(screen.queryByRole("button", { name: "Begin with the first step" })).toBeNull();
    cleanup();
    const { start } = at({});
    fireEvent.click(screen.getByRole("button", { name: "Begin with the first step" }));
    expect(start).toHaveBeenCalledOnce();
  });
  it("takes a yes or a no for what only a person can know", () => {
    const { said } = at({}, [{ field: "roof", says: "" }]);
    fireEvent.click(screen.getByRole("button", { name: "yes" }));
    expect(said).toEqual([{ kind: "about", roof: "yes" }]);
  });
});
