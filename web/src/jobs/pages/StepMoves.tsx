/** What a step does to the parts, and what its hold waits for: tapped from the assembly's own parts, never typed. */
import { useBenches, useGet } from "../../base";
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
const PARTS = [
  ["off", "Comes off"],
  ["on", "Goes back"],
  ["renew", "Goes back new"],
] as const;
const MEETS: [string, string][] = [
  ["confirm", "its own confirmation"],
  ["record", "a good record of its bench"],
  ["before", "a record from before the work"],
  ["figure", "its figure inside the limit"],
  ["proof", "its proof"],
  ["leads", "the lead map"],
  ["isolated", "the set isolated"],
  ["proved", "the set proved dead"],
  ["given_back", "the set given back"],
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
      {PARTS.map(([name, words]) => {
        const held = step[name] ?? [];
        if (!may && held.length === 0) return null;
        return (
          <div key={name} className={css.moves} role="group" aria-label={words}>
            <span>{words}</span>
            {parts
              .filter((p) => may || held.includes(p.id))
              .map((p) => (
                <button
                  key={p.id}
                  type="button"
                  className="btn-line"
                  aria-pressed={held.includes(p.id)}
                  onClick={() => {
                    if (may)
                      change({
                        [name]: held.includes(p.id) ? held.filter((x) => x !== p.id) : [...held, p.id],
                      });
                  }}
                >
                  {p.title}
                </button>
              ))}
          </div>
        );
      })}
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
