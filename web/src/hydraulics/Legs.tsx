/** Three legs and what turns their current into shaft power. */
import { NamedFigure, useTools } from "../safety";
import css from "./water.module.scss";

export function Legs({ more = true }: { more?: boolean }) {
  const { given } = useTools();
  const single = (given.set.components ?? []).some(
    (c) => c.kind === "motor" && (c.plate as { phases?: number } | null)?.phases === 1,
  );
  return (
    <div className={css.row} role="group" aria-label="Current">
      <NamedFigure name="amps_1" label="L1" />
      {!single && <NamedFigure name="amps_2" label="L2" />}
      {!single && <NamedFigure name="amps_3" label="L3" />}
      <NamedFigure name="idle_amps" label="no load, uncoupled" />
      {more && <NamedFigure name="volts" label="voltage" />}
      {more && <NamedFigure name="pf" label="power factor" />}
      <NamedFigure name="motor_eff" label="motor efficiency" />
    </div>
  );
}
