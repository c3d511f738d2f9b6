/** The running check: from the meter to the verdict while typing, then on record. */
import { memo } from "react";
import { useNarrow, useSession, useMe, type Schemas, small } from "../../base";
import { TrendPlot, useTrends } from "../../logbook";
import { Train, useSites, type SetOut } from "../../plant";
import {
  Bench,
  Derived,
  Note,
  NotToBeStarted,
  Photo,
  PutOnRecord,
  Reason,
  Sending,
  TakenUp,
  useBench,
  useOneEntry,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import { Circuit } from "./Circuit";
import { StateSentence } from "./StateSentence";
import { order, STATE, type Body } from "./sheet";
import css from "./drawing.module.scss";

type View = Schemas["ShownRunningCheckView"];

/** The phases on the motor's nameplate; three where there is none. */
const phasesOf = (given: Given): number =>
  (given.case.context.parts?.motor?.plate as Schemas["MotorPlate"] | null | undefined)?.phases ?? 3;
const NO_PARTS: never[] = [];

export function Drawing({ given }: { given: Given }) {
  const { set, mode, rules } = given;
  const { units } = useMe();
  const { setPrefs } = useSession();
  const narrow = useNarrow();
  const phases = phasesOf(given);
  const fields = order(phases);
  const sheet = useOneEntry<"running_check">(given, { figures: fields, kept: STATE });
  const unitFor = (dimension: string, unit: string) => {
    const body: Body = {};
    for (const f of fields) {
      const typed = sheet.body[f];
      if (rules[f]?.dimension === dimension && typed) body[f] = { text: typed.text, unit };
    }
    if (Object.keys(body).length) sheet.change(body);
    void setPrefs({ units: { [dimension]: unit } });
  };
  const after = (name: string) => fields[(fields.findIndex((f) => f === name) + 1) % fields.length] ?? name;
  const tools = useBench<View>(given, {
    ...sheet.own,
    tries: true,
    onUnit: (name, unit) => unitFor(rules[name]?.dimension ?? "", unit),
    nextLabel: (name) => `next, ${rules[after(name)]?.label ?? ""}`,
  });
  const { answer } = tools;
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 560;
  const train = !narrow && (
    <Train
      kind={set.kind}
      posture={set.posture}
      slots={set.slots}
      control={control}
      parts={answer?.parts ?? NO_PARTS}
      width={set.posture === "flat" ? 230 : 90}
      label={set.tag}
    />
  );
  const before = (
    <>
      {mode !== "pencil" && <TakenUp kept={sheet.kept} afresh={sheet.afresh} />}
      {mode === "new" && <NotToBeStarted set={set} />}
    </>
  );
  const celsius = units.temperature !== "degF";
  return (
    <Bench tools={tools} more={`${set.service}, ${set.role}`} aside={train} before={before}>
      <div className={small.bench}>
        <div>
          <Circuit
            width={width}
            phases={phases}
            plate={plateWords(answer?.view.plate)}
            view={answer?.view ?? null}
          />
          <StateSentence
            body={sheet.body}
            carried={sheet.carried}
            onDrive={control === "drive"}
            tempUnit={celsius ? "degC" : "degF"}
            tempSymbol={tools.symbols[celsius ? "degC" : "degF"] ?? ""}
            onTempUnit={() => {
              const unit = celsius ? "degF" : "degC";
              if (sheet.body.ambient) sheet.change({ ambient: { text: sheet.body.ambient.text, unit } });
              void setPrefs({ units: { temperature: unit } });
            }}
            onState={sheet.change}
          />
          <Reason />
          <div className="noteline">
            <Note>
              <Photo />
            </Note>
            <PutOnRecord />
          </div>
          <Sending />
          {!narrow && <Trend set={set} />}
        </div>
        <div>
          <Verdicts waits={tools.any}>
            <WorkedOut />
          </Verdicts>
          {!tools.any && (
            <p className="mute">Enter the meter readings. The verdict appears here as you type.</p>
          )}
        </div>
      </div>
    </Bench>
  );
}
const Trend = memo(function Trend({ set }: { set: SetOut }) {
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const first = useTrends(set.id).data?.find((t) => t.measurand === "current_mean");
  return first ? (
    <div className={css.undertrend}>
      <TrendPlot trend={first} zone={zone} height={140} />
    </div>
  ) : null;
});

/** The nameplate on the drawn motor, in two short lines. */
function plateWords(plate: View["plate"] | undefined): string[] {
  const sf = plate?.service_factor?.shown;
  return [
    [plate?.power?.shown, plate?.volts?.shown, plate?.amps?.shown],
    [plate?.speed?.shown, sf && `SF ${sf}`],
  ]
    .map((line) => line.filter(Boolean).join("  "))
    .filter(Boolean);
}

const DERIVED: [string, string][] = [
  ["voltage_unbalance", "voltage unbalance"],
  ["voltage_unbalance_true", "negative-sequence voltage"],
  ["derating", "derated to"],
  ["current_unbalance", "current unbalance"],
  ["load_worst", "worst leg, % of nameplate"],
  ["load_mean", "mean, % of nameplate"],
  ["load_adjusted", "load at nameplate voltage"],
  ["own_median", "own median"],
];
function WorkedOut() {
  const { answer } = useTools();
  const legs = (of: string) =>
    [1, 2, 3].flatMap((n) => answer?.values[`amps_${n}_of_${of}`]?.shown ?? []).join(" · ");
  const each: [string, string][] = [
    ["plate", "each leg, % of nameplate current"],
    ["service_factor", "each leg, % of service-factor current"],
  ];
  return (
    <Derived rows={DERIVED}>
      {each.map(
        ([of, label]) =>
          legs(of) && (
            <div className="wide" key={of}>
              <span className="lab">{label}</span>
              <span className="mono" data-value={`legs_of_${of}`}>
                {legs(of)}
              </span>
            </div>
          ),
      )}
    </Derived>
  );
}
