/** The isolation list of a set, answered on its drawing: which device isolates each source, or that it has none. */
import { useState } from "react";
import { Act, address, ApiError, Complaint, SENDING, small, useSmallForm } from "../../base";
import type { SetOut } from "../../plant";
import { useSafetyWords, type SetSafety } from "../queries";
import { standing, SourcesDrawn } from "./SourcesDrawn";
import type { Line, Say } from "./SourceRow";

const WORDS = ["device", "place", "lock", "try_out", "feeds", "tell"] as const;
/** Nothing was entered on it: the source counts as not answered. */
const empty = (l: Line) => !l.absent && !l.hazard && WORDS.every((w) => !l[w]?.trim());
const OPEN = "[data-stands=proposed] input, [data-stands=incomplete] input";

export function ListEditor({
  set,
  list,
  unsaid,
  done,
}: {
  set: SetOut;
  list: SetSafety["list"];
  unsaid: SetSafety["isolation"]["unsaid"];
  done: () => void;
}) {
  const words = useSafetyWords();
  const f = useSmallForm(`isolation-list:${set.id}`, { version: list.version, lines: list.lines as Line[] });
  const [more, setMore] = useState<string[]>([]);
  const lines = f.v.lines;
  const { proposed } = list;
  const add = (kind: string, said: Partial<Line>) => {
    const usual = said.absent ? undefined : proposed.find((p) => p.kind === kind);
    const line: Line = {
      id: crypto.randomUUID().slice(0, 8),
      kind,
      absent: false,
      device: "",
      place: "",
      means: usual?.means ?? "",
      lock: "",
      try_out: "",
      sister: usual?.sister ?? "",
      hazard: false,
      feeds: "",
      tell: "",
      ...said,
    };
    f.set({ lines: [...lines, line] });
  };
  const say: Say = {
    add,
    change: (id, said) => {
      const next = lines.map((l) => (l.id === id ? { ...l, ...said } : l));
      // A device that was taken out again, with nothing else entered: not answered.
      f.set({ lines: "device" in said ? next.filter((l) => l.id !== id || !empty(l)) : next });
    },
    drop: (id) => f.set({ lines: lines.filter((l) => l.id !== id) }),
    next: () => {
      const now = document.activeElement?.closest("[data-drawn]");
      // Once what was just answered is drawn as answered.
      setTimeout(() => {
        const open = [...document.querySelectorAll<HTMLInputElement>(OPEN)];
        const rest = open.filter((x) => x.closest("[data-drawn]") !== now);
        const after = rest.find(
          (x) => now && now.compareDocumentPosition(x) & Node.DOCUMENT_POSITION_FOLLOWING,
        );
        (after ?? rest[0] ?? document.getElementById("save-list"))?.focus();
      });
    },
  };
  const save = async () => {
    if (
      await f.send(
        "PUT",
        address("/api/v1/sets/{set_id}/isolation-list", { set_id: set.id }),
        { version: f.v.version, lines },
        `${set.tag}, isolation list`,
      )
    )
      done();
  };
  const now =
    f.error instanceof ApiError ? (f.error.current as { version: number; lines: Line[] } | null) : null;
  const all = words.data?.sources ?? [];
  const asked = all.filter(
    (k) => lines.some((l) => l.kind === k.id) || proposed.some((p) => p.kind === k.id) || more.includes(k.id),
  );
  const open = asked.filter((k) =>
    ["proposed", "incomplete"].includes(standing(lines.filter((l) => l.kind === k.id))),
  );
  const others = all.filter((k) => !asked.includes(k));
  const needed = open.filter((k) => unsaid.some((u) => u.kind === k.id));
  return (
    <section className="ruled" aria-labelledby="list-title">
      <h2 id="list-title">Isolation list of {set.tag}</h2>
      <p className={`mute ${small.tightLoose}`}>
        Name the device at every source, or tap “None here”. Unanswered sources block the isolation.
      </p>
      {now && (
        <div className="notice bad">
          Changed by someone else: {now.lines.length} lines.{" "}
          <button className="linklike" onClick={() => f.set({ version: now.version, lines: now.lines })}>
            Use saved version
          </button>{" "}
          <button className="linklike" onClick={() => f.set({ version: now.version })}>
            Keep mine
          </button>
        </div>
      )}
      <SourcesDrawn set={set} lines={lines} proposed={proposed} more={more} say={say} />
      {others.length > 0 && (
        <select
          className="inline-select"
          aria-label="Another source"
          value=""
          onChange={(e) => setMore([...more, e.target.value])}
        >
          <option value="">another source, unusual for this set …</option>
          {others.map((k) => (
            <option key={k.id} value={k.id}>
              {k.title}
            </option>
          ))}
        </select>
      )}
      <Complaint error={f.error} />
      <div className={`savebar ${small.fromLeft}`}>
        <Act id="save-list" className="btn-ink" waits={f.busy && SENDING} onClick={() => void save()}>
          Save list
        </Act>
        {list.lines.length > 0 && (
          <button
            className="btn-line"
            onClick={() => {
              f.drop();
              done();
            }}
          >
            Cancel
          </button>
        )}
        <span className={needed.length ? "v-act" : "mute"} role="status" data-testid="answered">
          {asked.length - open.length} of {asked.length} sources answered.{" "}
          {open.length > 0 && `Left: ${open.map((k) => k.title.toLowerCase()).join(", ")}.`}
        </span>
      </div>
    </section>
  );
}
