/** The winding as three coils in their frame, the tester's two leads where they stand, the air around. */
import type { Body, Leg } from "./logic";
import css from "./drawing.module.scss";

export function WindingDrawing({
  width,
  body,
  leg,
  live,
  control,
}: {
  width: number;
  body: Body;
  leg: Leg;
  live: boolean;
  control: string;
}) {
  const h = 168;
  const narrow = width < 480;
  const frame = narrow ? 132 : 236;
  const coils = [0, 1, 2].map((i) => frame + 34 + i * 58);
  const end = coils[2]! + 34;
  const apart = body.phases === "apart";
  const hot = (i: number) => !apart || leg === "all" || leg === `L${i + 1}`;
  const atStarter = body.test_point === "starter";
  const tester = narrow ? 8 : 14;
  const first = coils[leg === "all" ? 0 : Number(leg[1]) - 1]!;
  return (
    <svg
      className={live ? `${css.winding} ${css.live}` : css.winding}
      viewBox={`0 0 ${width} ${h}`}
      width={width}
      height={h}
      aria-hidden="true"
    >
      <rect className="thing" x={tester} y={62} width={78} height={52} />
      <path className="thing" d={`M${tester + 10} 98h58M${tester + 39} 98l${live ? 20 : -20} -22`} />
      <text x={tester + 39} y={56} textAnchor="middle">
        {body.tester || "tester"}
      </text>
      <path
        className={live ? `${css.lead} ${css.live}` : css.lead}
        d={`M${tester + 78} 74C${frame - 30} 74 ${frame - 30} 26 ${first} 26`}
      />
      <path
        className={css.lead}
        d={`M${tester + 78} 102C${frame - 24} 102 ${frame - 30} 146 ${frame + 8} 146`}
      />
      <rect className={`thing ${css.frame}`} x={frame} y={36} width={end - frame} height={110} rx={10} />
      {coils.map((x, i) => (
        <g key={x} className={hot(i) ? `${css.coil} ${css.hot}` : css.coil}>
          <path d={`M${x} 26V50${[0, 1, 2, 3].map(() => "q13 8 0 16").join("")}V126`} />
          <text x={x + 9} y={32}>{`L${i + 1}`}</text>
        </g>
      ))}
      <path className={apart ? `thing ${css.dashed}` : "thing"} d={`M${coils[0]} 126H${coils[2]}`} />
      {apart && (
        <text x={coils[1]} y={141} textAnchor="middle">
          others grounded
        </text>
      )}
      <path className="thing" d={`M${frame + 8} 146v8m-9 0h18m-15 4h12m-9 4h6`} />
      {body.links === "out" && <path className={css.struckmark} d={`M${frame - 26} 20l12 12m0 -12l-12 12`} />}
      {atStarter && (
        <>
          <rect className="thing" x={frame - 44} y={14} width={22} height={24} />
          <text x={frame - 33} y={10} textAnchor="middle">
            cable
          </text>
        </>
      )}
      {["drive", "soft_starter"].includes(control) && (
        <g>
          <rect className="thing" x={end + 16} y={22} width={46} height={34} />
          <path className="thing" d={`M${end + 16} 56l46 -34`} />
          {body.drive_off ? (
            <path className={css.struckmark} d={`M${end + 2} 32l10 14m0 -14l-10 14`} />
          ) : (
            <path className={css.lead} d={`M${end} 39h16`} />
          )}
          <text x={end + 39} y={70} textAnchor="middle">
            {control === "drive" ? "drive" : "soft starter"}
            {body.drive_off ? ", disconnected" : ""}
          </text>
        </g>
      )}
    </svg>
  );
}
