/** A scan of the joints: the set's own ladder, each joint's temperature where it is, or the drop across it. */
import { useState } from "react";
import { RadioGroup } from "../../base";
import {
  Bench,
  NamedFigure,
  NotToBeStarted,
  RecordEnd,
  useBench,
  useOneEntry,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import { bareView, type Circuit } from "../circuit/edited";
import { changed, fieldOf, placeOf, withFigure } from "../spots";
import { How } from "./How";
import { Rows } from "./Rows";
import { placesOf, rowsOf, rulesOf, READ, SAID, type Body, type Kind, type View } from "./sheet";
import { Thermal } from "./Thermal";
import css from "./drawing.module.scss";

const KINDS: Record<Kind, string> = { temp: "temperature", drop: "millivolts across" };

/** The set's ladder as this device knows it, until the core has drawn it. */
function bareOf(given: Given): View | null {
  const [kept] = (given.case.extras?.circuit ?? []) as { circuit: Circuit }[];
  if (!kept) return null;
  const { title, legs, elements, rungs, spans, paths, positions, confirmed } = bareView(kept.circuit);
  const drawn = { title, legs, elements, rungs, spans, paths, positions, confirmed };
  return { ...drawn, joints: [], drops: [], load: null, spot: null };
}

/** Something was read at a place, or seen. */
const savable = (body: Body): boolean => Boolean(body.spots?.length) || Boolean(body.seen);

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"joints">(given, {
    figures: SAID,
    kept: ["surface", "rating", "ratio", "reader"],
    also: savable,
  });
  const [bare] = useState(() => bareOf(given));
  const view = (sheet.own.told.answer?.view as View | undefined) ?? bare;
  const [kind, setKind] = useState<Kind>("temp");
  const [rows, setRows] = useState<Partial<Record<Kind, string>>>({});
  if (!view) return null;
  return <Scan key="scan" {...{ given, sheet, view, kind, setKind, rows, setRows }} />;
}
interface ScanProps {
  given: Given;
  sheet: ReturnType<typeof useOneEntry<"joints">>;
  view: View;
  kind: Kind;
  setKind: (kind: Kind) => void;
  rows: Partial<Record<Kind, string>>;
  setRows: (rows: Partial<Record<Kind, string>>) => void;
}
function Scan({ given, sheet, view, kind, setKind, rows, setRows }: ScanProps) {
  const spots = sheet.body.spots ?? [];
  const all = rowsOf(view, kind);
  const first = all.find((id) => id.startsWith("F")) ?? all[0] ?? "";
  const row = rows[kind] ?? first;
  const here = placesOf(row, view.legs.length).map((at) => fieldOf(kind, at));
  const figure = (name: string) => {
    const place = placeOf(name, READ);
    return place ? spots.find((s) => s.at === place[1])?.[place[0]] : sheet.own.entered(name);
  };
  const focusOn = (name: string) => setTimeout(() => document.getElementById(`f-${name}`)?.focus());
  const take = (id: string, focus = true) => {
    setRows({ ...rows, [kind]: id });
    if (focus) focusOn(fieldOf(kind, `${id}.1`));
  };
  const tools = useBench<View>(
    { ...given, rules: rulesOf(given.rules, view) },
    {
      ...sheet.own,
      order: [...here, ...SAID],
      entered: figure,
      put: (name, next) => {
        const place = placeOf(name, READ);
        if (!place) sheet.own.put(name, next);
        else sheet.change({ spots: withFigure(spots, READ, ...place, next) });
      },
      onNext: (name) => {
        const i = here.indexOf(name);
        if (i < 0) return focusOn(SAID[(SAID.indexOf(name as never) + 1) % SAID.length] ?? "");
        if (i + 1 < here.length) return focusOn(here[i + 1]!);
        return take(all[(all.indexOf(row) + 1) % all.length] ?? row);
      },
      nextLabel: () => "next",
    },
  );
  return (
    <Bench
      tools={tools}
      more={view.title}
      before={given.mode === "new" && <NotToBeStarted set={given.set} />}
    >
      <How body={sheet.body} say={sheet.change} positions={view.positions} />
      <div className={css.bench}>
        <div>
          <RadioGroup<Kind>
            label="Read"
            className={css.kinds ?? ""}
            options={["temp", "drop"]}
            value={kind}
            says={(k) => KINDS[k]}
            onChoose={setKind}
          />
          <Rows view={view} kind={kind} row={row} take={take} />
          <div className={css.row}>
            <NamedFigure name="amps_1" />
            <NamedFigure name="amps_2" />
            {view.legs.length > 2 && <NamedFigure name="amps_3" />}
            {view.load && (
              <span className="dimfield">
                <span className="lab">of nameplate current</span>
                <span className="mono" data-value="load">
                  {view.load.shown}
                </span>
              </span>
            )}
            {view.spot && (
              <span className="dimfield">
                <span className="lab">spot at this distance</span>
                <span className="mono" data-value="spot">
                  {view.spot.shown}
                </span>
              </span>
            )}
          </div>
          {kind === "temp" && <Bare body={sheet.body} view={view} row={row} say={sheet.change} />}
          <Thermal body={sheet.body} view={view} row={kind === "temp" ? row : first} say={sheet.change} />
        </div>
        <div>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** Bare metal at the row in hand, leg by leg: only where something was read. */
function Bare({
  body,
  view,
  row,
  say,
}: {
  body: Body;
  view: View;
  row: string;
  say: (more: Partial<Body>) => void;
}) {
  const { may } = useTools();
  const spots = body.spots ?? [];
  const read = placesOf(row, view.legs.length).filter((at) => spots.some((s) => s.at === at && s.temp));
  if (!read.length || body.surface === "bare") return null;
  return (
    <p className={css.placing}>
      Bare metal at {view.rungs.find((r) => r.id === row)?.title}:{" "}
      {read.map((at) => {
        const name = view.legs[Number(at.slice(-1)) - 1] ?? "";
        return (
          <label key={at} className="confirm">
            <input
              type="checkbox"
              disabled={!may}
              checked={spots.find((s) => s.at === at)?.bare ?? false}
              onChange={(e) => say({ spots: changed(spots, at, { bare: e.target.checked || null }) })}
            />{" "}
            {name}
          </label>
        );
      })}
    </p>
  );
}
