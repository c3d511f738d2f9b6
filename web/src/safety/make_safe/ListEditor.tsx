/** The isolation list of a set: every kind of source with its device, or the word that there is none. */
import { useState } from "react";
import { address, ApiError, Complaint, small, useSmallForm, type Schemas } from "../../base";
import type { SetOut } from "../../plant";
import { useSafetyWords, type SetSafety } from "../queries";
import { SourcesDrawn } from "./SourcesDrawn";
import css from "./drawing.module.scss";

type Line = Schemas["IsolationSource"];

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
  const [held, setHeld] = useState("");
  const lines = f.v.lines;
  const change = (id: string, next: Partial<Line>) =>
    f.set({ lines: lines.map((l) => (l.id === id ? { ...l, ...next } : l)) });
  const proposals = list.proposed;
  const add = (kind: string, absent: boolean) => {
    const usual = absent ? undefined : proposals.find((p) => p.kind === kind);
    const id = crypto.randomUUID().slice(0, 8);
    f.set({
      lines: [
        ...lines,
        {
          id,
          kind,
          absent,
          device: "",
          place: "",
          means: usual?.means ?? "",
          lock: "",
          try_out: "",
          sister: usual?.sister ?? "",
          hazard: false,
          feeds: "",
          tell: "",
        },
      ],
    });
    if (!absent) setHeld(id);
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
  return (
    <section className={`ruled ${css.listeditor}`} aria-labelledby="list-title">
      <h2 id="list-title">Isolation list of {set.tag}</h2>
      <p className={`mute ${small.tightLoose}`}>
        List every energy source once. If a source does not exist here, mark it “none here”. Unanswered
        sources block the isolation.
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
      <SourcesDrawn set={set} lines={lines} proposed={proposals} held={held} />
      <ul className={css.sourcekinds}>
        {(words.data?.sources ?? []).map((k) => {
          const mine = lines.filter((l) => l.kind === k.id);
          const asked = unsaid.some((u) => u.kind === k.id);
          return (
            <li key={k.id} id={`source-${k.id}`} className={asked && !mine.length ? css.asked : ""}>
              <strong>{k.title}</strong>
              {mine.length === 0 && (
                <span className="rowflex">
                  <button
                    className="linklike"
                    aria-label={`${k.title}: add source`}
                    onClick={() => add(k.id, false)}
                  >
                    Add source
                  </button>
                  <button
                    className="linklike"
                    aria-label={`${k.title}: none here`}
                    onClick={() => add(k.id, true)}
                  >
                    None here
                  </button>
                </span>
              )}
              {mine.map((l) =>
                l.absent ? (
                  <span key={l.id} className="mute">
                    none here{" "}
                    <button
                      className="linklike"
                      onClick={() => f.set({ lines: lines.filter((x) => x.id !== l.id) })}
                    >
                      Undo
                    </button>
                  </span>
                ) : (
                  <span key={l.id} className={css.linefields}>
                    <input
                      aria-label={`${k.title}, device`}
                      placeholder="device"
                      autoFocus={held === l.id}
                      value={l.device ?? ""}
                      maxLength={80}
                      onChange={(e) => change(l.id, { device: e.target.value })}
                    />
                    <input
                      aria-label={`${k.title}, place`}
                      placeholder="place"
                      value={l.place ?? ""}
                      maxLength={80}
                      onChange={(e) => change(l.id, { place: e.target.value })}
                    />
                    <select
                      aria-label={`${k.title}, isolated by`}
                      value={l.means ?? ""}
                      onChange={(e) => change(l.id, { means: e.target.value })}
                    >
                      <option value="">isolated by …</option>
                      {k.means.map((m) => (
                        <option key={m} value={m}>
                          {words.data?.means.find((x) => x.id === m)?.title}
                        </option>
                      ))}
                    </select>
                    <input
                      aria-label={`${k.title}, lock`}
                      placeholder="lock"
                      value={l.lock ?? ""}
                      maxLength={80}
                      onChange={(e) => change(l.id, { lock: e.target.value })}
                    />
                    <input
                      aria-label={`${k.title}, how to verify`}
                      placeholder="how to verify"
                      value={l.try_out ?? ""}
                      maxLength={120}
                      onChange={(e) => change(l.id, { try_out: e.target.value })}
                    />
                    {k.id === "sister_header" && (
                      <input
                        aria-label="Paired set"
                        placeholder={set.partners[0]?.tag ?? "paired set"}
                        value={l.sister ?? ""}
                        maxLength={30}
                        onChange={(e) => change(l.id, { sister: e.target.value })}
                      />
                    )}
                    {["wet", "heat"].includes(k.family) && (
                      <label className="confirm">
                        <input
                          type="checkbox"
                          checked={l.hazard ?? false}
                          onChange={(e) => change(l.id, { hazard: e.target.checked })}
                        />{" "}
                        over 50 °C, hazardous or sewage
                      </label>
                    )}
                    <input
                      aria-label={`${k.title}, also feeds`}
                      placeholder="also feeds (burner, controls)"
                      value={l.feeds ?? ""}
                      maxLength={120}
                      onChange={(e) => change(l.id, { feeds: e.target.value })}
                    />
                    <input
                      aria-label={`${k.title}, inform first`}
                      placeholder="inform first"
                      value={l.tell ?? ""}
                      maxLength={120}
                      onChange={(e) => change(l.id, { tell: e.target.value })}
                    />
                    <button
                      className="linklike"
                      aria-label={`${k.title}: remove this line`}
                      onClick={() => f.set({ lines: lines.filter((x) => x.id !== l.id) })}
                    >
                      Remove
                    </button>
                  </span>
                ),
              )}
              {mine.some((l) => !l.absent) && (
                <button
                  className="linklike"
                  aria-label={`${k.title}: one more`}
                  onClick={() => add(k.id, false)}
                >
                  Add another
                </button>
              )}
            </li>
          );
        })}
      </ul>
      <Complaint error={f.error} />
      <div className={`savebar ${small.fromLeft}`}>
        <button className="btn-ink" disabled={f.busy} onClick={() => void save()}>
          Save list
        </button>
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
      </div>
    </section>
  );
}
