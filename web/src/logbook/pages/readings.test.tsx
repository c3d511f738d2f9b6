import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "../../base";
import { ReadingsPage } from "./ReadingsPage";

type Job = Schemas["ImportJobOut"];
const job = (more: Partial<Job> = {}): Job => ({
  id: 4,
  bench: "insulation",
  title: "Insulation test",
  name: "old.csv",
  by: "Tia",
  at: "2026-03-02T09:00:00Z",
  state: "checked",
  done: 9,
  total: 9,
  taken: 7,
  questioned: 1,
  refused: 0,
  there: 1,
  error: "",
  cancel_asked: false,
  finished_at: null,
  ...more,
});
const KINDS = [
  { name: "make_safe", records: "Made safe", files: false },
  { name: "insulation", records: "Insulation tests", files: true },
  { name: "running_check", records: "Running checks", files: true },
];
let now: Job;
let role = "technician";
let next = "";
let lost = false;
let rows: Schemas["ImportRowOut"][] = [];
const asked: Record<string, unknown>[] = [];
const written: string[] = [];
const sent = vi.fn();
let answer: () => Promise<unknown> = async () => job();

vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useBenches: () => ({ data: KINDS }),
  useMe: () => ({ locale: "en-GB", username: "tia" }),
  sendFile: (...words: unknown[]) => {
    sent(...words);
    return answer();
  },
  outbox: {
    write: async (_: string, path: string) => {
      written.push(path);
      return now;
    },
  },
  useGet: (path: string, params: Record<string, unknown> | null) => {
    if (params) asked.push({ path, ...params });
    const refetch = async () => undefined;
    if (path.endsWith("/rows")) return { data: { rows, more: false }, refetch };
    if (path.includes("{job_id}")) return { data: now, refetch };
    const older = params?.before === "more";
    if (older && lost)
      return {
        data: undefined,
        error: new ApiError(0, "no_connection", "The server does not answer."),
        refetch: async () => {
          lost = false;
        },
      };
    return {
      data:
        params === null
          ? undefined
          : {
              items: older
                ? [job({ id: 1, name: "first.csv" }), job({ id: 2, name: "second.csv" })]
                : [now, job({ id: 3, name: "third.csv" })],
              next: older ? "" : next,
            },
      refetch,
    };
  },
}));
vi.mock("../../plant", () => {
  const sites = () => [{ id: 1, name: "Tidehouse", time_zone: "Europe/Lisbon", role }];
  return { useSites: () => ({ data: sites() }), chosenSite: () => sites()[0] };
});

beforeEach(() => {
  now = job();
  role = "technician";
  rows = [];
  next = "";
  lost = false;
  asked.length = written.length = 0;
  sent.mockClear();
  answer = async () => now;
});
afterEach(cleanup);
const show = () =>
  render(
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient()}>
        <ReadingsPage />
      </QueryClientProvider>
    </MemoryRouter>,
  );
const file = new File(["tag,taken_at"], "old.csv", { type: "text/csv" });
const choose = () =>
  fireEvent.change(screen.getByLabelText("A file of readings"), { target: { files: [file] } });

describe("readings as files", () => {
  it("sends a file with its kind and the order of its dates", async () => {
    show();
    fireEvent.change(screen.getByLabelText("Type of readings"), { target: { value: "running_check" } });
    fireEvent.change(screen.getByLabelText("Order of dates"), { target: { value: "day" } });
    choose();
    await waitFor(() =>
      expect(sent).toHaveBeenCalledWith(
        "/api/v1/sites/1/readings/imports",
        { bench: "running_check", order: "day" },
        file,
      ),
    );
  });
  it("says what a file was that is none", async () => {
    answer = async () => {
      throw new ApiError(422, "file_wrong_kind", "This is a picture, not a table of readings.");
    };
    show();
    choose();
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("This is a picture"));
  });
  it("offers to write what was checked, and how many", async () => {
    show();
    fireEvent.click(screen.getByRole("button", { name: "Save 8 records" }));
    await waitFor(() => expect(written).toEqual(["/api/v1/readings/imports/4/write"]));
  });
  it.each([
    [{ refused: 2, taken: 0, questioned: 0 }, "2 rows are rejected and left out."],
    [{ state: "written" }, "saved"],
    [{ state: "cancelled" }, "nothing saved"],
    [{ state: "failed", error: "The work was broken off three times." }, "broken off three times"],
  ])("offers nothing to write when %o", (more, words) => {
    now = job(more);
    show();
    expect(screen.queryByRole("button", { name: /Put .* on record/ })).toBeNull();
    expect(screen.getByTestId("import").textContent).toContain(words);
  });
  it("shows how far it is, and can be stopped", async () => {
    now = job({ state: "writing", done: 4000, total: 9000 });
    show();
    expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("4000");
    fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
    await waitFor(() => expect(written).toEqual(["/api/v1/readings/imports/4/cancel"]));
  });
  it("leads to the files of before, and back", () => {
    next = "more";
    show();
    fireEvent.click(screen.getByRole("button", { name: "Older files" }));
    fireEvent.click(screen.getByRole("button", { name: "first.csv" }));
    expect(asked.some((a) => a.job_id === 1)).toBe(true);
    expect(screen.queryByRole("button", { name: "Older files" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Newer files" }));
    expect(screen.getByRole("button", { name: "third.csv" })).toBeTruthy();
  });
  it("says so when the files of before do not come, and tries again", () => {
    next = "more";
    lost = true;
    show();
    fireEvent.click(screen.getByRole("button", { name: "Older files" }));
    expect(screen.getByRole("alert").textContent).toBe("The server does not answer.");
    expect(screen.getByRole("button", { name: "Newer files" })).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(lost).toBe(false);
  });
  it("does not offer to stop twice", () => {
    now = job({ state: "writing", cancel_asked: true });
    show();
    expect(screen.getByRole("button", { name: "Cancel" })).toHaveProperty("disabled", true);
  });
  it("shows the refused rows first, and any others on a tap", () => {
    now = job({ refused: 1 });
    rows = [{ line: 3, tag: "Z-9", outcome: "refused", says: "There is no set Z-9 on this site." }];
    show();
    expect(screen.getByText("There is no set Z-9 on this site.")).toBeTruthy();
    expect(asked.some((a) => a.outcome === "refused")).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: /accepted, query/ }));
    expect(asked.at(-1)?.outcome).toBe("questioned");
  });
  it("lets a viewer take readings out and nothing in", () => {
    role = "viewer";
    show();
    expect(screen.queryByLabelText("A file of readings")).toBeNull();
    expect(screen.getByRole("link", { name: "All as CSV" }).getAttribute("href")).toBe(
      "/api/v1/sites/1/readings/insulation.csv",
    );
    expect(screen.queryByTestId("import")).toBeNull();
  });
  it("offers the kinds that go to files, and no other", () => {
    show();
    const kinds = [...screen.getByLabelText("Type of readings").querySelectorAll("option")];
    expect(kinds.map((k) => k.textContent)).toEqual(["insulation tests", "running checks"]);
  });
  it("leads to the empty template of the kind that is chosen", () => {
    show();
    fireEvent.change(screen.getByLabelText("Type of readings"), { target: { value: "running_check" } });
    expect(screen.getByRole("link", { name: "The empty template" }).getAttribute("href")).toBe(
      "/api/v1/readings/running_check/template.csv",
    );
  });
});
