import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { outbox } from "../base";
import { Draw } from "./Strokes";

vi.mock("../base/shrink", () => ({ shrunk: (f: File) => Promise.resolve(f) }));
const pen = {
  drawImage: vi.fn(),
  beginPath: vi.fn(),
  moveTo: vi.fn(),
  lineTo: vi.fn(),
  stroke: vi.fn(),
};
const size = { width: 3200, height: 1600 };
beforeEach(() => {
  HTMLCanvasElement.prototype.getContext = vi.fn(() => pen) as never;
  HTMLCanvasElement.prototype.setPointerCapture = vi.fn();
  HTMLCanvasElement.prototype.toBlob = function (done: BlobCallback) {
    done(new Blob(["x"], { type: "image/jpeg" }));
  };
  HTMLCanvasElement.prototype.getBoundingClientRect = () =>
    ({ left: 10, top: 20, width: 400, height: 200 }) as DOMRect;
  vi.stubGlobal(
    "createImageBitmap",
    vi.fn(() => Promise.resolve({ ...size, close: vi.fn() })),
  );
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
  vi.clearAllMocks();
});
const choose = () =>
  fireEvent.change(screen.getByLabelText("Photo to draw on"), {
    target: { files: [new File(["x"], "box.jpg", { type: "image/jpeg" })] },
  });
const canvas = () => screen.findByLabelText("Photo, draw on it with a finger");

describe("a photo to be drawn on", () => {
  it("is drawn no larger than it is kept", async () => {
    render(<Draw setId={7} tag="A-1" entry="e-1" />);
    choose();
    const c = (await canvas()) as HTMLCanvasElement;
    await waitFor(() => expect(pen.drawImage).toHaveBeenCalled());
    expect([c.width, c.height]).toEqual([1600, 800]);
  });
  it("takes the finger where it is, in its own measure, and only while it is down", async () => {
    render(<Draw setId={7} tag="A-1" entry="e-1" />);
    choose();
    const c = await canvas();
    await waitFor(() => expect(pen.drawImage).toHaveBeenCalled());
    fireEvent.pointerMove(c, { clientX: 50, clientY: 50 });
    expect(pen.stroke).not.toHaveBeenCalled();
    fireEvent.pointerDown(c, { clientX: 10, clientY: 20, pointerId: 1 });
    fireEvent.pointerMove(c, { clientX: 210, clientY: 120, pointerId: 1 });
    expect(pen.moveTo).toHaveBeenCalledWith(0, 0);
    expect(pen.lineTo).toHaveBeenCalledWith(800, 400);
    fireEvent.pointerUp(c, { pointerId: 1 });
    fireEvent.pointerMove(c, { clientX: 300, clientY: 150, pointerId: 1 });
    expect(pen.stroke).toHaveBeenCalledTimes(1);
  });
  it("goes with its entry once it is kept, and is no longer on the page", async () => {
    const write = vi.spyOn(outbox, "write").mockResolvedValue({} as never);
    render(<Draw setId={7} tag="A-1" entry="e-1" />);
    choose();
    await canvas();
    fireEvent.click(screen.getByRole("button", { name: "Keep photo" }));
    expect(await screen.findByText("Added.")).toBeTruthy();
    expect(write.mock.calls[0]?.slice(0, 2)).toEqual(["POST", "/api/v1/sets/7/attachments"]);
    expect(write.mock.calls[0]?.[2]).toMatchObject({ title: "drawn on", entry: "e-1" });
    expect(screen.queryByLabelText("Photo, draw on it with a finger")).toBeNull();
  });
  it("stays with its strokes when it could not be kept, and says why", async () => {
    vi.spyOn(outbox, "write").mockRejectedValue(new Error("No room on this device."));
    render(<Draw setId={7} tag="A-1" entry="e-1" />);
    choose();
    await canvas();
    fireEvent.click(screen.getByRole("button", { name: "Keep photo" }));
    expect(await screen.findByText("No room on this device.")).toBeTruthy();
    expect(await canvas()).toBeTruthy();
  });
  it.each([
    [{ width: 12000, height: 8400 }, "This photo has 101 megapixels: take it smaller, 60 are taken."],
    [null, "This file cannot be read as a photo. Take it again, or choose a JPEG, PNG or WebP."],
  ])("is refused by what is wrong with it", async (made, says) => {
    const closed = vi.fn();
    vi.stubGlobal(
      "createImageBitmap",
      vi.fn(() => (made ? Promise.resolve({ ...made, close: closed }) : Promise.reject(new Error("no")))),
    );
    render(<Draw setId={7} tag="A-1" entry="e-1" />);
    choose();
    expect(await screen.findByText(says)).toBeTruthy();
    expect(screen.queryByLabelText("Photo, draw on it with a finger")).toBeNull();
    if (made) expect(closed).toHaveBeenCalledOnce();
  });
  it("is put away by Cancel, and nothing is sent", async () => {
    const write = vi.spyOn(outbox, "write");
    render(<Draw setId={7} tag="A-1" entry="e-1" />);
    choose();
    await canvas();
    fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(screen.getByLabelText("Photo to draw on")).toBeTruthy();
    expect(write).not.toHaveBeenCalled();
  });
});
