import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ApiError, outbox } from "../base";
import { OpenedWithin, useBenchPage, useSaving } from "./saving";

vi.mock("./queries", () => ({ useRecord: () => ({ data: null }) }));
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});
const dropped = vi.fn();
function Page() {
  const { id, mode, recordId } = useBenchPage();
  const saving = useSaving(id);
  return (
    <>
      <p>
        {mode} {recordId}
      </p>
      <button
        aria-busy={saving.sending}
        onClick={() =>
          void saving.put(
            "alignment",
            { set_id: id, sheet: "sheet-1", entries: [] },
            "A-1",
            "sheet-1",
            dropped,
          )
        }
      >
        save
      </button>
      {saving.refusal instanceof ApiError && <p>{saving.refusal.message}</p>}
    </>
  );
}
function SetHere() {
  const state = useLocation().state as { saved: number; differs: boolean } | null;
  return (
    <p>
      record {state?.saved}, {state?.differs ? "differs" : "as seen"}
    </p>
  );
}
const show = (at: string) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path="sets/:setId" element={<SetHere />} />
          <Route path="sets/:setId/alignment" element={<Page />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );

describe("putting a sheet on record", () => {
  it("goes back to the set with the record, and says when it was judged otherwise than seen", async () => {
    const write = vi.spyOn(outbox, "write").mockResolvedValue({ record: 7, differs: true } as never);
    show("/sets/3/alignment");
    fireEvent.click(screen.getByRole("button"));
    expect(await screen.findByText("record 7, differs")).toBeTruthy();
    expect(write).toHaveBeenCalledWith(
      "POST",
      "/api/v1/benches/alignment/records",
      { set_id: 3, sheet: "sheet-1", entries: [] },
      "A-1",
      "sheet-1",
    );
    expect(dropped).toHaveBeenCalledOnce();
  });
  it("keeps what was typed and says why when it is refused", async () => {
    dropped.mockClear();
    vi.spyOn(outbox, "write").mockRejectedValue(
      new ApiError(422, "figures_refused", "Four readings that cannot be one shaft."),
    );
    show("/sets/3/alignment");
    fireEvent.click(screen.getByRole("button"));
    expect(await screen.findByText("Four readings that cannot be one shaft.")).toBeTruthy();
    expect(dropped).not.toHaveBeenCalled();
    expect(screen.getByRole("button").getAttribute("aria-busy")).toBe("false");
  });
  it("opened within other work goes back to it and not to the set", async () => {
    vi.spyOn(outbox, "write").mockResolvedValue({ record: 8, differs: false } as never);
    const back = vi.fn();
    render(
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter initialEntries={["/sets/3/alignment"]}>
          <Routes>
            <Route path="sets/:setId" element={<SetHere />} />
            <Route
              path="sets/:setId/alignment"
              element={
                <OpenedWithin value={back}>
                  <Page />
                </OpenedWithin>
              }
            />
          </Routes>
        </MemoryRouter>
      </QueryClientProvider>,
    );
    fireEvent.click(screen.getByRole("button"));
    await vi.waitFor(() => expect(back).toHaveBeenCalledWith({ saved: 8, differs: false }));
    expect(screen.queryByText(/^record/)).toBeNull();
  });
  it("reads from the address whether a record is corrected or tried", () => {
    show("/sets/3/alignment?record=9&mode=pencil");
    expect(screen.getByText("pencil 9")).toBeTruthy();
    cleanup();
    show("/sets/3/alignment");
    expect(screen.getByText("new")).toBeTruthy();
  });
});
