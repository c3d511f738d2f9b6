/** The loop as it stands: pump, vessel with its water, highest point over the gauge. */
import type { Schemas } from "../../base";
import css from "../water.module.scss";

export function LoopDrawn({ view, tag }: { view: Schemas["ShownLoopView"]; tag: string }) {
  if (!view.name) return null;
  const held = view.water ?? null;
  const top = 236;
  const tall = 74;
  return (
    <svg viewBox="0 0 420 330" role="img" aria-label={`Loop ${view.name}`} data-water={held ?? ""}>
      <path className={css.pipe} d="M110 230V40H330V230M118 222V48H322V222M110 230H330M118 222H322" />
      <path className={css.thing} d="M210 40V20H230V40M200 20H240" />
      <path className={css.thing} d="M316 90H346V110H306V130H346V150H322" />
      <rect className={css.casing} x="90" y="100" width="48" height="64" />
      <path className={css.thing} d="M90 164L138 100" />
      <circle className={css.casing} cx="178" cy="226" r="26" />
      <circle className={css.eye} cx="178" cy="226" r="7" />
      <text className={css.axis} x="178" y="272" textAnchor="middle">
        {tag}
      </text>
      <path className={css.thing} d={`M256 230V${String(top)}`} />
      <rect className={css.casing} x="228" y={top} width="56" height={tall} />
      {held != null && <rect className={css.water} x="228" y={top} width="56" height={tall * held} />}
      {view.held && (
        <text className={css.marked} x="292" y={top + 16}>
          {view.held.shown} water
        </text>
      )}
      {view.gas && (
        <text className={css.axis} x="292" y={top + 60}>
          {view.gas.shown} gas
        </text>
      )}
      {view.high_point && (
        <g>
          <path className={css.dim} d="M60 40V226M52 40H104M52 226H70" />
          <text className={css.marked} x="52" y="140" textAnchor="end">
            {view.high_point.shown}
          </text>
        </g>
      )}
    </svg>
  );
}
