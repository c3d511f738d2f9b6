/**
 * The two shafts from the side and from above, exaggerated; what each foot asks for beneath them. Turned
 * over for who stands on the other side.
 */
import type { ReactNode } from "react";
import type { Schemas } from "../../base";
import css from "./drawing.module.scss";

type Shaft = Schemas["ShownShaftView"];
const WIDE = 520;
/** Over the drawing its title, beneath it the feet and what they are to do: no tilt reaches either. */
const TOP = 20;
const HIGH = 124;
const SWING = 84;
const X = (x: number) => 176 + x * 300;
const MID = TOP + HIGH / 2;
const Y = (y: number) => MID - (y - 0.5) * SWING;

export function ShaftDrawing({
  shaft,
  title,
  turned = false,
  over = false,
  says = "",
  children,
}: {
  shaft: Shaft;
  title: string;
  turned?: boolean;
  over?: boolean;
  says?: string;
  children?: ReactNode;
}) {
  const mid = MID;
  const flip = (p: Shaft["points"][number]) => (over ? { ...p, y: 1 - p.y } : p);
  const [c, f, r] = ["coupling", "front", "rear"]
    .map((n) => shaft.points.find((p) => p.name === n))
    .map((p) => p && flip(p));
  const known = shaft.known && c && f && r;
  const target = Y(over ? 1 - shaft.target : shaft.target);
  const tilt = known ? (Math.atan2(Y(r.y) - Y(f.y), X(r.x) - X(f.x)) * 180) / Math.PI : 0;
  const cx = known ? (X(f.x) + X(r.x)) / 2 : 0;
  const cy = known ? (Y(f.y) + Y(r.y)) / 2 : 0;
  const long = known ? X(r.x) - X(f.x) + 56 : 0;
  const place = (x: number) => (turned ? WIDE - x : x);
  const anchor = (a: "start" | "end") => (turned ? (a === "start" ? "end" : "start") : a);
  const words = known ? `${title}: ${c.says?.shown ?? ""} at the coupling` : `${title}: not read yet`;
  return (
    <div className="shaftbox">
      <svg className={css.shafts} viewBox={`0 0 ${WIDE} ${TOP + HIGH + 34}`} role="img" aria-label={words}>
        <text x={4} y={14} className={css.title}>
          {title}
        </text>
        {known && (
          <text x={516} y={14} textAnchor="end">
            drawn ×{shaft.times}
          </text>
        )}
        {known && says && (
          <text x={WIDE / 2} y={14} textAnchor="middle" className={css.ask}>
            {says}
          </text>
        )}
        <g transform={turned ? `translate(${WIDE} 0) scale(-1 1)` : undefined}>
          <path className="centre" d={`M8 ${mid}H512`} />
          <path
            className="thing"
            d={`M22 ${mid - 26}H92L108 ${mid - 16}V${mid + 16}L92 ${mid + 26}H22zM108 ${mid - 6}H146M108 ${mid + 6}H146M146 ${mid - 18}H160V${mid + 18}H146z`}
          />
          {known && (
            <g className={css.motor}>
              {Math.abs(target - mid) > 0.5 && <path className={css.target} d={`M170 ${target}H500`} />}
              <path
                className={css.axis}
                d={`M${X(c.x) - 4} ${Y(c.y)}L${X(r.x) + 34} ${Y(r.y) + ((Y(r.y) - Y(f.y)) / (X(r.x) - X(f.x))) * 34}`}
              />
              <g transform={`translate(${X(c.x)} ${Y(c.y)}) rotate(${tilt})`}>
                <path className="thing" d="M0-18H14V18H0z" />
              </g>
              <g transform={`translate(${cx} ${cy}) rotate(${tilt})`}>
                <path className="thing" d={`M${-long / 2}-24H${long / 2}V24H${-long / 2}z`} />
                {[1, 2, 3, 4, 5].map((i) => (
                  <path key={i} className={css.fin} d={`M${-long / 2 + (i * long) / 6}-24V24`} />
                ))}
              </g>
            </g>
          )}
          {known &&
            [f, r].map((p) => (
              <path
                key={p.name}
                className={css.foot}
                d={`M${X(p.x)} ${TOP + HIGH}v10M${X(p.x) - 16} ${TOP + HIGH + 10}h32`}
              />
            ))}
        </g>
        <text x={place(58)} y={mid + 4} textAnchor="middle">
          pump (fixed)
        </text>
        {known ? (
          [f, r].map((p) => (
            <text
              key={p.name}
              x={p === r ? place(516) : place(X(p.x))}
              y={TOP + HIGH + 27}
              textAnchor={p === r ? anchor("end") : "middle"}
              className={css.ask}
            >
              {p.move}
            </text>
          ))
        ) : (
          <text x={place(330)} y={mid - 8} textAnchor="middle" className={css.unread}>
            not read yet
          </text>
        )}
      </svg>
      {children}
    </div>
  );
}

/** A flange on its adapter: the gap as a wedge, the support under the far end, how far it goes. */
export function FlangeDrawing({ values }: { values: Record<string, Schemas["ShownQuantity"]> }) {
  const lift = values.raise ?? values.lower;
  const up = Boolean(values.raise);
  return (
    <svg
      className={css.shafts}
      viewBox="0 0 520 170"
      role="img"
      aria-label={lift ? `Support ${up ? "up" : "down"} by ${lift.shown}` : "Flange: lift not known"}
    >
      <text x={4} y={14} className={css.title}>
        Motor flange, side view
      </text>
      <path className="centre" d="M8 80H512" />
      <path className="thing" d="M20 40H120V120H20zM120 34H132V126H120z" />
      <g transform={`rotate(${lift ? (up ? 3 : -3) : 0} 140 80)`} className={css.motor}>
        <path className="thing" d="M140 34H152V126H140zM152 54H200V106H152zM200 44H430V116H200z" />
      </g>
      <path className={css.foot} d="M392 122V146M376 146H408M384 152H400" />
      {lift ? (
        <>
          <path
            className={css.lift}
            d={up ? "M440 148V112M433 122L440 110L447 122" : "M440 112V148M433 138L440 150L447 138"}
          />
          <text x={456} y={136} className={css.ask}>
            {lift.shown}
          </text>
        </>
      ) : (
        <text x={330} y={164} textAnchor="middle" className={css.unread}>
          lift not known yet
        </text>
      )}
      {values.turns && (
        <text x={456} y={154}>
          {values.turns.shown} of the nut
        </text>
      )}
    </svg>
  );
}
