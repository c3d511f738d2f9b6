/**
 * Take out, put in: four feet as they lie before you, large enough to be read from the floor; any pack
 * changed in pencil.
 */
import { useState, type ReactNode } from "react";
import { RadioGroup, type Schemas } from "../../base";
import { feetFrom, STANDS, type Body, type Stand } from "./logic";
import css from "./drawing.module.scss";

type Plan = Schemas["ShownPlanView"];
type Choice = Schemas["ShownPlanChoice"];
type FootView = Schemas["ShownFootView"];

function Stack({ foot }: { foot: FootView }) {
  const lying = foot.pieces.filter((p) => p.state !== "out");
  const high = (mm: number) => Math.max(5, Math.min(26, 5 + mm * 11));
  let y = 74;
  return (
    <svg
      className={css.stack}
      viewBox="0 0 150 84"
      role="img"
      aria-label={`${foot.title}: ${lying.length} shims, ${foot.total.shown}`}
    >
      <path className={css.base} d="M2 78H148" />
      {lying.map((p, i) => {
        y -= high(p.drawn) + 1.5;
        return (
          <rect
            key={i}
            className={p.state === "in" ? `${css.piece} ${css.in}` : css.piece}
            x={16}
            y={y + 2}
            width={118}
            height={high(p.drawn)}
          />
        );
      })}
    </svg>
  );
}
function Foot({
  foot,
  edited,
  text,
  onPack,
}: {
  foot: FootView;
  edited: boolean;
  text: string;
  onPack: ((text: string) => void) | null;
}) {
  const [open, setOpen] = useState(false);
  const count = foot.pieces.filter((p) => p.state !== "out").length;
  return (
    <div className={edited ? `${css.footplan} pencil` : css.footplan} data-foot={foot.foot}>
      <h3>
        {foot.title} <span className="mute">needs {foot.asks.shown}</span>
      </h3>
      <Stack foot={foot} />
      <dl>
        {foot.take_out.length > 0 && (
          <div>
            <dt>take out</dt>
            <dd className={`mono ${css.out}`}>{foot.take_out.map((q) => q.figure).join(" ")}</dd>
          </div>
        )}
        {foot.put_in.length > 0 && (
          <div className={css.in}>
            <dt>put in</dt>
            <dd className="mono">{foot.put_in.map((q) => q.figure).join(" ")}</dd>
          </div>
        )}
        {foot.take_out.length + foot.put_in.length === 0 && (
          <div>
            <dd>no change</dd>
          </div>
        )}
      </dl>
      <p className="mute">
        {count} {count === 1 ? "shim" : "shims"}, {foot.total.shown}
        {onPack && (
          <>
            {" "}
            <button className="linklike" aria-expanded={open} onClick={() => setOpen(!open)}>
              Change
            </button>
          </>
        )}
      </p>
      {open && onPack && (
        <input
          className={`mono ${css.pack}`}
          aria-label={`${foot.title}, what-if`}
          value={text}
          onChange={(e) => onPack(e.target.value)}
        />
      )}
    </div>
  );
}
export function PlanBoard({
  plan,
  stand,
  tries,
  may,
  pushed,
  onTry,
  onLaid,
}: {
  plan: Plan;
  stand: Stand;
  tries: Body;
  may: boolean;
  pushed: ReactNode;
  onTry: (next: Body) => void;
  onLaid: (feet: FootView[]) => void;
}) {
  const [which, setWhich] = useState(0);
  const choices: Choice[] = plan.choice ? [plan.choice, ...plan.others] : [];
  const shown = plan.edited ?? choices[Math.min(which, choices.length - 1)];
  const edited = plan.edited !== null;
  return (
    <section className={css.planboard} aria-label="Shims: take out, put in">
      <h2 className={css.planhead}>
        Shims: take out, put in{" "}
        <span>
          as you stand: {STANDS.find(([s]) => s === stand)?.[1]}
          {plan.van ? ` · ${plan.van}` : ""}
        </span>
      </h2>
      {plan.waits.map((w) => (
        <p key={w} className="mute">
          {w}
        </p>
      ))}
      {plan.says.length > 0 && <p className="v-watch">{plan.says.join(" ")}</p>}
      {shown && (
        <>
          <div className={css.footgrid}>
            {feetFrom(stand)
              .map((name) => shown.feet.find((f) => f.foot === name))
              .map(
                (f) =>
                  f && (
                    <Foot
                      key={f.foot}
                      foot={f}
                      edited={edited}
                      text={(tries[`pack_${f.foot}` as keyof Body] as string | undefined) ?? f.pack}
                      onPack={may ? (text) => onTry({ ...tries, [`pack_${f.foot}`]: text }) : null}
                    />
                  ),
              )}
          </div>
          <p className={css.planwords} data-testid="plan-words">
            {shown.words.join(" ")}{" "}
            {(plan.push_front || plan.push_rear) && (
              <>
                Then move the motor:{" "}
                <span className="mono" data-value="push_front">
                  {plan.front_move}
                </span>{" "}
                at the front feet,{" "}
                <span className="mono" data-value="push_rear">
                  {plan.rear_move}
                </span>{" "}
                at the rear feet, seen from behind the motor.
              </>
            )}
          </p>
          <p className="rowflex">
            {edited ? (
              <>
                <strong className="mute">What-if.</strong>
                <button className="btn-line" onClick={() => onTry({})}>
                  Clear
                </button>
              </>
            ) : (
              choices.length > 1 && (
                <RadioGroup
                  className={css.others}
                  label="Choices"
                  options={choices.map((_, i) => i)}
                  value={which}
                  onChoose={setWhich}
                  says={(i) => ["Plan 1 (best)", "Plan 2", "Plan 3"][i]}
                />
              )
            )}
            {may && pushed}
            {may && (
              <button className="btn-ink" onClick={() => onLaid(shown.feet)}>
                {edited ? "Confirm shims fitted as changed" : "Confirm shims fitted as planned"}
              </button>
            )}
          </p>
        </>
      )}
    </section>
  );
}
