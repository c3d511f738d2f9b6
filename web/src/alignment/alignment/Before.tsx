/** Before readings count: the base from above, each foot loosened alone; hubs, pipes, and what lies under the coupling. */
import { Act, type Schemas } from "../../base";
import { NamedFigure, useTools } from "../../safety";
import { Placed, Tick, type Visit } from "./fields";
import type { Foot } from "./logic";
import css from "./work.module.scss";

type Sign = NonNullable<Schemas["PassRead"]["signs"]>[number];
const SIGNS: [Sign, string][] = [
  ["nothing", "nothing"],
  ["rubber_dust", "black rubber dust"],
  ["torn_element", "torn element"],
  ["loose_bolts", "loose bolts"],
  ["heat_marks", "heat marks"],
];
const PLACES: Record<Foot, [number, number]> = {
  front_left: [48, 82],
  front_right: [48, 16],
  rear_left: [83, 82],
  rear_right: [83, 16],
};
const WORDS: Record<Foot, string> = {
  front_left: "front left",
  front_right: "front right",
  rear_left: "rear left",
  rear_right: "rear right",
};

export function Before({ t }: { t: Visit }) {
  const { may } = useTools();
  const signs = t.body.signs ?? [];
  const toggle = (s: Sign) =>
    t.change({
      signs: signs.includes(s)
        ? signs.filter((x) => x !== s)
        : s === "nothing"
          ? ["nothing"]
          : [...signs.filter((x) => x !== "nothing"), s],
    });
  return (
    <section className="before" aria-label="Pre-checks">
      <p className="rowflex" role="group" aria-label="Under the coupling">
        <span className="mute">Found under the coupling:</span>
        {SIGNS.map(([s, w]) => (
          <Act
            key={s}
            waits={!may && "View only."}
            saidBy="view-only"
            aria-pressed={signs.includes(s)}
            onClick={() => toggle(s)}
          >
            {w}
          </Act>
        ))}
      </p>
      <Tick t={t} name="marked">
        Hubs, shims and feet match-marked
      </Tick>
      <div className={css.looked}>
        <svg viewBox="0 0 760 300" aria-hidden="true">
          <path className="centre" d="M10 150H750" />
          <path
            className="thing"
            d="M30 110H150V190H30zM150 140H200M150 160H200M200 116H218V184H200zM230 116H248V184H230zM248 140H300M248 160H300M300 90H700V210H300z"
          />
          {[
            [330, 60],
            [330, 210],
            [600, 60],
            [600, 210],
          ].map(([x, y]) => (
            <path
              key={`${x}${y}`}
              className="thing"
              d={`M${x} ${y}h70v30h-70zM${(x ?? 0) + 35} ${(y ?? 0) + 8}v14`}
            />
          ))}
          <text x={90} y={154} textAnchor="middle">
            pump (fixed)
          </text>
          <text x={500} y={154} textAnchor="middle">
            soft foot: loosen one foot at a time, enter its rise
          </text>
        </svg>
        {(Object.keys(PLACES) as Foot[]).map((f) => (
          <Placed key={f} name={`soft_${f}`} x={PLACES[f][0]} y={PLACES[f][1]} label={WORDS[f]} />
        ))}
        <Placed name="run_out_rim" x={29} y={16} label="run-out, rim" />
        <Placed name="run_out_face" x={29} y={84} label="run-out, face" />
        <Placed
          name="pipe_strain"
          x={10}
          y={84}
          label="pipe strain: movement when pipe bolts are tightened"
        />
      </div>
      <div className="rowflex">
        <Tick t={t} name="springy">
          Still springy with a clean, thin shim pack
        </Tick>
        <Tick t={t} name="with_pipes">
          Soft foot changes with the pipe bolts
        </Tick>
      </div>
      <details className="spared">
        <summary>Gap not even across a foot (angled foot)</summary>
        <div className="setupfields">
          {(Object.keys(PLACES) as Foot[]).map((f) => (
            <NamedFigure key={f} name={`across_${f}`} />
          ))}
        </div>
      </details>
    </section>
  );
}
