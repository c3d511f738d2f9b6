/** A thermal picture: read from a table of temperatures, drawn in ink, with a place for each joint put on it. */
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { Complaint, sendFile, Spot } from "../../base";
import { useTools } from "../../safety";
import { changed } from "../spots";
import { placesOf, shownAt, tenthsOf, unplaced, type Body, type Picture, type View } from "./sheet";
import css from "./drawing.module.scss";

interface Props {
  body: Body;
  view: View;
  row: string;
  say: (more: Partial<Body>) => void;
}
export function Thermal({ body, view, row, say }: Props) {
  const { may } = useTools();
  const [wrong, setWrong] = useState<unknown>(null);
  const [reading, setReading] = useState(false);
  const picture = body.picture ?? null;
  const load = async (file: File | undefined) => {
    if (!file) return;
    setReading(true);
    setWrong(null);
    try {
      const grid = (await sendFile("/api/v1/joints/grid", {}, file)) as { picture: Picture };
      // Places on another picture are none on this one.
      const spots = unplaced(body.spots ?? []);
      say({ picture: grid.picture, spots });
    } catch (error) {
      setWrong(error);
    } finally {
      setReading(false);
    }
  };
  return (
    <section aria-label="Thermal picture">
      {picture && <Shown picture={picture} body={body} view={view} row={row} say={say} />}
      {may && (
        <p>
          <label className="btn-line">
            {picture ? "Replace thermal picture" : "Add thermal picture (CSV)"}
            <input
              type="file"
              className={css.file}
              accept=".csv,.txt,text/csv,text/plain"
              onChange={(e) => void load(e.target.files?.[0])}
            />
          </label>{" "}
          {picture && (
            <button
              type="button"
              className="btn-line"
              onClick={() =>
                say({
                  picture: null,
                  spots: unplaced(body.spots ?? []),
                })
              }
            >
              Remove
            </button>
          )}{" "}
          {reading && <span role="status">Reading the file…</span>}
        </p>
      )}
      <Complaint error={wrong} />
    </section>
  );
}
/** The picture, and the leg whose joint is put on it next. */
function Shown({ picture, body, view, row, say }: Props & { picture: Picture }) {
  const { may } = useTools();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [leg, setLeg] = useState(1);
  const [aim, setAim] = useState({ x: 0.5, y: 0.5 });
  const [focus, setFocus] = useState(false);
  useEffect(() => draw(canvas.current, picture), [picture]);
  const put = (x: number, y: number) => {
    const at = placesOf(row, view.legs.length)[leg - 1];
    if (!may || at === undefined) return;
    const temp = { text: shownAt(picture, x, y), unit: "degC" };
    say({ spots: changed(body.spots ?? [], at, { temp, x, y }) });
    setLeg((leg % view.legs.length) + 1);
  };
  const tap = (e: PointerEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    put((e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height);
  };
  const key = (e: KeyboardEvent) => {
    const step = 1 / Math.max(picture.width, picture.height);
    const by: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const move = by[e.key];
    if (move) setAim({ x: within(aim.x + move[0]), y: within(aim.y + move[1]) });
    else if (e.key === "Enter") put(aim.x, aim.y);
    else return;
    e.preventDefault();
  };
  const title = view.rungs.find((r) => r.id === row)?.title ?? "";
  return (
    <>
      <p className={css.placing}>
        {title && `${title}: tap the joint of `}
        {view.legs.map((name, i) => (
          <button
            key={name}
            type="button"
            className="btn-line"
            aria-pressed={leg === i + 1}
            onClick={() => setLeg(i + 1)}
          >
            {name}
          </button>
        ))}
      </p>
      <div
        className={css.thermal}
        role="application"
        aria-label={`Thermal picture. Arrow keys move the mark, Enter reads it for ${view.legs[leg - 1] ?? ""}.`}
        tabIndex={0}
        onPointerUp={tap}
        onKeyDown={key}
        onFocus={() => setFocus(true)}
        onBlur={() => setFocus(false)}
      >
        <canvas ref={canvas} width={picture.width} height={picture.height} />
        {(body.spots ?? []).map((s) =>
          s.x == null || s.y == null ? null : (
            <Spot
              key={s.at}
              className={`${css.spot} ${s.at.startsWith(`${row}.`) ? css.inhand : ""}`}
              at={{ left: `${100 * s.x}%`, top: `${100 * s.y}%` }}
            >
              <span>{view.legs[Number(s.at.slice(-1)) - 1]}</span>
            </Spot>
          ),
        )}
        {focus && <Spot className={css.aim} at={{ left: `${100 * aim.x}%`, top: `${100 * aim.y}%` }} />}
      </div>
    </>
  );
}
const within = (v: number) => Math.min(0.999, Math.max(0.001, v));

/** Warm is ink, cool is the sheet: one colour, as everything else here. */
function draw(canvas: HTMLCanvasElement | null, picture: Picture) {
  const pen = canvas?.getContext("2d");
  if (!canvas || !pen) return;
  const tenths = tenthsOf(picture);
  const span = 10 * (picture.high - picture.low) || 1;
  const image = pen.createImageData(picture.width, picture.height);
  tenths.forEach((t, i) => {
    const share = (t - 10 * picture.low) / span;
    image.data.set([120 - 90 * share, 60 - 20 * share, 40 + 10 * share, 255 * Math.sqrt(share)], 4 * i);
  });
  pen.clearRect(0, 0, picture.width, picture.height);
  pen.putImageData(image, 0, 0);
}
