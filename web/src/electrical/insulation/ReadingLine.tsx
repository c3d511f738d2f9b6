/** The reading in hand: of which leg, at which second, and what the tester shows. */
import { Act, FigureInput } from "../../base";
import { useFigure, useTools } from "../../safety";
import { LEG_WORD, type Leg } from "./logic";
import css from "./drawing.module.scss";

interface Props {
  leg: Leg;
  running: boolean;
  onLeg: (leg: Leg) => void;
  onTake: () => void;
}
export function ReadingLine({ leg, running, onLeg, onTake }: Props) {
  const { entered } = useTools();
  const second = useFigure("second").props;
  const ohms = useFigure("ohms").props;
  return (
    <div className={css.readingline}>
      <select
        className="inline-select"
        aria-label="Leg"
        value={leg}
        disabled={running}
        onChange={(e) => onLeg(e.target.value as Leg)}
      >
        {(Object.keys(LEG_WORD) as Leg[]).map((l) => (
          <option key={l} value={l}>
            {LEG_WORD[l]}
          </option>
        ))}
      </select>
      {!running && (
        <>
          at <FigureInput {...second} className="inline-input mono" placeholder="60" digits /> s
        </>
      )}
      <FigureInput {...ohms} label="Insulation" className={`mono ${css.bigfield}`} />
      <Act waits={!entered("ohms")?.text.trim() && "Enter the resistance first."} onClick={onTake}>
        Add reading
      </Act>
    </div>
  );
}
