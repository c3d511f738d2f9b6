/** The pump with its two gauges, each at its height over the centre line, its field beside it. */
import { useState } from "react";
import { Choose, NamedFigure, useTools } from "../safety";
import { CLASSES, HEIGHTS, PRESSURES } from "./options";
import css from "./water.module.scss";

interface Gauged {
  heights?: string | null;
  pressures?: string | null;
  gauge_class?: string | null;
}
interface Props<B> {
  body: B;
  say: (more: Partial<B>) => void;
  children?: React.ReactNode;
}
export function Gauges<B extends Gauged>({ body, say, children }: Props<B>) {
  const { narrow, entered } = useTools();
  const [bare] = useState(() => !entered("suction_bore")?.text);
  const said = { body, say };
  const own = body.heights === "own";
  return (
    <section aria-label="Two gauges">
      {narrow ? (
        <div className={css.two}>
          <NamedFigure name="suction" label="suction" />
          <NamedFigure name="discharge" label="discharge" />
        </div>
      ) : (
        <div className={css.gauges}>
          <Drawn own={own} />
          <span className={css.atsuction}>
            <NamedFigure name="suction" label="suction" />
          </span>
          <span className={css.atdischarge}>
            <NamedFigure name="discharge" label="discharge" />
          </span>
        </div>
      )}
      <p className="statesentence">
        Read as <Choose name="pressures" label="Gauge or absolute pressure" options={PRESSURES} {...said} />,{" "}
        <Choose name="heights" label="Gauges read" options={HEIGHTS} {...said} />,{" "}
        <Choose name="gauge_class" label="Gauge class" options={CLASSES} {...said} />.
      </p>
      <details className={css.more} open={(!narrow && bare) || undefined}>
        <summary>Heights, bores and scales of the gauges</summary>
        <div className={css.row}>
          {own && <NamedFigure name="suction_z" label="suction gauge above centre" />}
          {own && <NamedFigure name="discharge_z" label="discharge gauge above centre" />}
          <NamedFigure name="suction_bore" label="suction bore" />
          <NamedFigure name="discharge_bore" label="discharge bore" />
          <NamedFigure name="suction_top" label="suction full scale" />
          <NamedFigure name="discharge_top" label="discharge full scale" />
        </div>
      </details>
      {children}
    </section>
  );
}
function Drawn({ own }: { own: boolean }) {
  return (
    <svg viewBox="0 0 520 250" aria-hidden="true">
      <path className={css.centre} d="M0 180H520" />
      <path className={css.pipe} d="M60 168H236M60 192H236M290 150V60M318 150V60" />
      <circle className={css.casing} cx="276" cy="180" r="44" />
      <circle className={css.eye} cx="276" cy="180" r="11" />
      <path className={css.casing} d="M318 172V120H290V138" />
      <path className={css.thing} d="M230 224H322M244 224L254 210M308 224L298 210M280 112H328" />
      <circle className={css.dial} cx="130" cy="128" r="20" />
      <path className={css.thing} d="M130 148V168M130 128L118 118" />
      <circle className={css.dial} cx="384" cy="84" r="20" />
      <path className={css.thing} d="M318 84H364M384 84L396 74" />
      {own && (
        <path className={css.dim} d="M60 128V180M54 128H66M54 180H66M440 84V180M434 84H446M434 180H446" />
      )}
    </svg>
  );
}
