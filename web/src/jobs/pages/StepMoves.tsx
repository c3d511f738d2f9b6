/** What a step does to the parts, and what its hold waits for: tapped from the assembly's own parts, never typed. */
import { useBenches, useGet } from "../../base";
import { Exploded } from "../Exploded";
import css from "./pages.module.scss";

export interface Moves {
  off?: string[];
  on?: string[];
  renew?: string[];
  hold?: string;
  meets?: string;
  opens?: string;
  record?: string;
  minutes?: number;
  [more: string]: unknown;
}
/** Tapped, a part goes through these in turn. */
const TURN = ["", "off", "on", "renew"] as const;
type Turn = (typeof TURN)[number];
const WORDS: Record<Turn, string> = {
  "": "",
  off: "Comes off",
  on: "Goes back",
  renew: "Goes back new",
};
const DRAWN: Record<Turn, string> = { "": "on", off: "off", on: "back", renew: "renewed" };

/** What this step does to a part. What goes back new goes back: it stands in both lists. */
export function turnOf(step: Moves, part: string): Turn {
  if (step.renew?.includes(part)) return "renew";
  if (step.on?.includes(part)) return "on";
  return step.off?.includes(part) ? "off" : "";
}
/** The lists of a step once a part was tapped. */
export function tapped(step: Moves, part: string): Moves {
  const next = TURN[(TURN.indexOf(turnOf(step, part)) + 1) % TURN.length] ?? "";
  const list = (name: "off" | "on" | "renew", there: boolean) => {
    const rest = (step[name] ?? []).filter((x) => x !== part);
    return there ? [...rest, part] : rest;
  };
  return {
    off: list("off", next === "off"),
    on: list("on", next === "on" || next === "renew"),
    renew: list("renew", next === "renew"),
  };
}
const MEETS: [string, string][] = [
  ["confirm", "its own confirmation"],
  ["record", "a good record of its bench"],
  ["before", "a record from before the work"],
  ["figure", "its figure inside the limit"],
  ["proof", "its proof"],
  ["leads", "the lead map"],
  ["isolated", "the set isolated"],
  ["proved", "the set proved dead"],
  ["given_back", "the set returned to service"],
  ["sent", "handed over to the shop"],
  ["accepted", "back from the shop and accepted"],
  ["cause", "the cause entered"],
  ["service", "the service in its range"],
];

export function StepMoves({
  at,
  step,
  tree,
  may,
  change,
}: {
  at: number;
  step: Moves;
  tree: string;
  may: boolean;
  change: (more: Moves) => void;
}) {
  const told = useGet("/api/v1/anatomy/{name}", tree ? { name: tree } : null);
  const benches = useBenches().data ?? [];
  const parts = told.data?.tree.part ?? [];
  const id = (n: string) => `${n}${String(at)}`;
  return (
    <>
      {parts.length > 0 && (
        <Exploded
          label="What it does to the parts"
          chosen={null}
          parts={parts.map((p) => ({
            ...p,
            state: DRAWN[turnOf(step, p.id)],
            hand: turnOf(step, p.id) !== "",
          }))}
          onChoose={(part) => {
            if (may) change(tapped(step, part));
          }}
        />
      )}
      <p>
        {TURN.filter(Boolean).map((t) => {
          const held = parts.filter((p) => turnOf(step, p.id) === t);
          if (held.length === 0) return null;
          return (
            <span key={t} data-turn={t}>
              {WORDS[t]}: <strong>{held.map((p) => p.title).join(", ")}</strong>.{" "}
            </span>
          );
        })}
        {may && <span className="mute">Tap a part: it comes off, goes back, goes back new.</span>}
      </p>
      <div className={css.head}>
        <div className="field">
          <label htmlFor={id("meets")}>The hold waits for</label>
          <select
            id={id("meets")}
            disabled={!may}
            value={step.meets ?? "confirm"}
            onChange={(e) => change({ meets: e.target.value })}
          >
            {MEETS.map(([v, words]) => (
              <option key={v} value={v}>
                {words}
              </option>
            ))}
          </select>
        </div>
        <div className="field">
          <label htmlFor={id("opens")}>Opens the bench</label>
          <select
            id={id("opens")}
            disabled={!may}
            value={step.opens ?? ""}
            onChange={(e) => change({ opens: e.target.value })}
          >
            <option value="">none</option>
            {benches
              .filter((b) => b.name !== "job")
              .map((b) => (
                <option key={b.name} value={b.name}>
                  {b.title}
                </option>
              ))}
          </select>
        </div>
        <div className="field">
          <label htmlFor={id("record")}>Record asked for</label>
          <input
            id={id("record")}
            maxLength={400}
            readOnly={!may}
            value={step.record ?? ""}
            onChange={(e) => change({ record: e.target.value })}
          />
        </div>
        <div className="field">
          <label htmlFor={id("minutes")}>Minutes</label>
          <input
            id={id("minutes")}
            inputMode="numeric"
            maxLength={5}
            readOnly={!may}
            value={String(step.minutes ?? 5)}
            onChange={(e) => {
              const n = Number(e.target.value);
              if (/^\d{0,5}$/.test(e.target.value)) change({ minutes: n });
            }}
          />
        </div>
      </div>
    </>
  );
}
