/** The state in which the next figure is read, as a sentence with its values underlined to change. */
import { useTools } from "../../safety";
import type { View } from "./layout";
import { wordOf } from "./positions";
import { QUANTITIES, type Quantity, type Walk } from "./walk";

function Pick({
  label,
  value,
  options,
  onChoose,
}: {
  label: string;
  value: string;
  options: [string, string][];
  onChoose: (value: string) => void;
}) {
  return (
    <select
      className="inline-select"
      aria-label={label}
      value={value}
      onChange={(e) => onChoose(e.target.value)}
    >
      {options.map(([k, words]) => (
        <option key={k} value={k}>
          {words}
        </option>
      ))}
    </select>
  );
}
export function StateLine({ walk, view }: { walk: Walk; view: View }) {
  const { may } = useTools();
  const { stands } = walk;
  if (!may) return null;
  const contactor = view.positions.map((p): [string, string] => [p, wordOf(p, view.positions)]);
  return (
    <p className="statesentence">
      {view.contactor && (
        <>
          Contactor{" "}
          <Pick
            label="Contactor"
            value={stands.contactor}
            options={contactor}
            onChoose={(contactor) => walk.stand({ contactor })}
          />
          ,{" "}
        </>
      )}
      {view.motor && (
        <>
          motor{" "}
          <Pick
            label="Motor"
            value={stands.motor}
            options={[
              ["standing", "at standstill"],
              ["running", "running"],
            ]}
            onChoose={(motor) => walk.stand({ motor })}
          />
          , leads{" "}
          <Pick
            label="Motor leads"
            value={stands.leads}
            options={[
              ["on", "on"],
              ["off", "off"],
            ]}
            onChoose={(leads) => walk.stand({ leads })}
          />
          ,{" "}
        </>
      )}
      meter{" "}
      <Pick
        label="Meter input"
        value={stands.meter}
        options={[
          ["low", "low impedance"],
          ["high", "10 MΩ"],
          ["low_pass", "low-pass"],
        ]}
        onChoose={(meter) => walk.stand({ meter })}
      />
      , reading{" "}
      <Pick
        label="What is read"
        value={walk.quantity}
        options={QUANTITIES}
        onChoose={(q) => walk.read(q as Quantity)}
      />
      . Meter proved on a live source{" "}
      <Pick
        label="Meter proved on a live source"
        value={view.proved}
        options={[
          ["", "not yet"],
          ["before", "before"],
          ["both", "before and after"],
        ]}
        onChoose={(proved) => proved && walk.say({ proved: proved as "before" | "both" })}
      />
      .
    </p>
  );
}
