import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { Cautions, firstLine } from "./Cautions";
import { PutOnRecord } from "./pieces";
import { standIn } from "./standIn";
import { ToolsGiven } from "./tools";

afterEach(cleanup);
const LINES = [
  "Live readings only by people authorised to take them. Doors shut.",
  "Local codes come first.",
];
const said = () => screen.getByRole("note").textContent ?? "";

describe("the cautions of a sheet", () => {
  it("stand open until they were read on it, then are one line that opens to the whole", () => {
    render(<Cautions sheet="7:running_check:a" lines={LINES} />);
    for (const line of LINES) expect(said()).toContain(line);
    fireEvent.click(screen.getByRole("button", { name: "Read: fold to one line" }));
    expect(said()).toContain("Live readings only by people authorised to take them.");
    expect(said()).not.toContain("Local codes");
    fireEvent.click(screen.getByRole("button", { name: "all cautions" }));
    for (const line of LINES) expect(said()).toContain(line);
  });
  it("stand open again on the next sheet, and when another one is added", () => {
    render(<Cautions sheet="7:running_check:b" lines={LINES} />);
    fireEvent.click(screen.getByRole("button", { name: "Read: fold to one line" }));
    cleanup();
    render(<Cautions sheet="7:running_check:b" lines={LINES} />);
    expect(said()).not.toContain("Local codes");
    cleanup();
    render(<Cautions sheet="7:running_check:c" lines={LINES} />);
    expect(said()).toContain("Local codes");
    cleanup();
    render(<Cautions sheet="7:running_check:b" lines={[...LINES, "The guard is off."]} />);
    expect(said()).toContain("The guard is off.");
  });
  it("are folded at the end of their first sentence; a single short one is not folded at all", () => {
    expect(firstLine(LINES)).toEqual(["Live readings only by people authorised to take them.", true]);
    expect(firstLine(["Guard on."])).toEqual(["Guard on.", false]);
    render(<Cautions sheet="7:vibration:a" lines={["Guard on."]} />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("a button that waits", () => {
  it("says what for, and nothing once it is there", () => {
    const show = (any: boolean) =>
      render(
        <ToolsGiven value={standIn({ any })}>
          <PutOnRecord />
        </ToolsGiven>,
      );
    show(false);
    const button = screen.getByRole("button", { name: "Save record" });
    expect(button).toHaveProperty("disabled", true);
    expect(document.getElementById(button.getAttribute("aria-describedby") ?? "")?.textContent).toBe(
      "Enter a reading first.",
    );
    cleanup();
    show(true);
    expect(screen.getByRole("button", { name: "Save record" })).toHaveProperty("disabled", false);
    expect(document.body.textContent).not.toContain("Enter a reading first.");
  });
});
