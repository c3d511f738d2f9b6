/** The valves of the loop at the step that is next: what stands open is hollow, what stands shut is filled. */
import type { Schemas } from "../../base";
import css from "../water.module.scss";

type Seen = Schemas["ShownFillView"];
/** Where each valve sits, whether its pipe runs upright, and its word beside it. */
const PLACES: Record<string, { x: number; y: number; up?: true; word: string; at: [number, number] }> = {
  fill: { x: 110, y: 152, up: true, word: "fill", at: [96, 156] },
  between: { x: 160, y: 130, word: "between", at: [160, 116] },
  purge: { x: 210, y: 152, up: true, word: "purge", at: [224, 156] },
  vessel: { x: 300, y: 152, up: true, word: "vessel", at: [314, 156] },
  branch: { x: 350, y: 82, up: true, word: "this branch", at: [338, 86] },
  others: { x: 410, y: 82, up: true, word: "others", at: [424, 86] },
  vent: { x: 210, y: 22, up: true, word: "vent", at: [224, 24] },
};
const BEFORE = new Set(["fill", "branch"]);

export function Valves({ view }: { view: Seen }) {
  const next = view.steps.find((s) => s.state === "next");
  const named = (state: string) => view.valves.filter((v) => v.state === state).map((v) => v.title);
  const open = named("open");
  const shut = named("shut");
  return (
    <section className={css.part} aria-label="Valves at this step">
      <svg viewBox="0 0 480 214" role="img" aria-label="The loop with its valves">
        <path className={css.pipe} d="M60 130V40H410V130H60M350 40V130M210 40V8M110 130V178M210 130V178" />
        <path className={css.pipe} d="M300 130V172" />
        <path className={css.thing} d="M188 178V204H232V178M96 204C96 186 110 196 110 178" />
        <rect className={css.casing} x="278" y="172" width="44" height="34" />
        {view.valves.map((v) => (
          <Glyph key={v.id} id={v.id} state={v.state} title={v.title} />
        ))}
      </svg>
      <p data-valves>
        {next && <strong>{next.title}. </strong>}
        {open.length > 0 && <>Open: {open.join("; ")}. </>}
        {shut.length > 0 && <>Shut: {shut.join("; ")}. </>}
        {open.length + shut.length < view.valves.length && (
          <span className="mute">The rest as it stands.</span>
        )}
      </p>
    </section>
  );
}
function Glyph({ id, state, title }: { id: string; state: string; title: string }) {
  const place = PLACES[id];
  if (!place) return null;
  const { x, y, up, word, at } = place;
  return (
    <g data-valve={id} data-state={state}>
      <title>{state === "found" ? title : `${title}: ${state}`}</title>
      <path
        className={css.valve}
        transform={`translate(${String(x)} ${String(y)})${up ? " rotate(90)" : ""}`}
        d="M-11 -8L11 8V-8L-11 8Z"
      />
      <text
        className={css.axis}
        x={at[0]}
        y={at[1]}
        textAnchor={id === "between" ? "middle" : BEFORE.has(id) ? "end" : "start"}
      >
        {word}
      </text>
    </g>
  );
}
