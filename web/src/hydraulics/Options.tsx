/** What each way of running costs, side by side: as it runs in ink, the what-ifs in pencil. */
import type { Schemas } from "../base";
import css from "./water.module.scss";

type Option = Schemas["ShownRunOption"];
const TITLES: Record<string, string> = {
  now: "as it runs",
  valve: "valve closed in",
  speed: "speed or trim",
};
const ROWS: [keyof Option & string, string][] = [
  ["flow", "flow"],
  ["left", "of the flow now"],
  ["of_bep", "of best efficiency"],
  ["head", "head"],
  ["loss", "eaten by the valve"],
  ["kv", "Kv of the valve"],
  ["speed", "speed or diameter"],
  ["power", "shaft power"],
  ["amps", "worst leg"],
  ["energy", "kWh a year"],
  ["money", "cost a year"],
];
function Shown({ of }: { of: unknown }) {
  const { shown = "", error = "" } = (of ?? {}) as { shown?: string; error?: string };
  return (
    <>
      {shown} {error && <span className={css.below}>{error}</span>}
    </>
  );
}

export function Options({
  options,
  says,
  children,
}: {
  options: readonly Option[];
  says: readonly string[];
  children?: React.ReactNode;
}) {
  if (!options.length) return null;
  const rows = ROWS.filter(([name]) => options.some((o) => o[name]));
  return (
    <section className={css.whatif} aria-label="What-if">
      <table>
        <thead>
          <tr>
            <th scope="col">
              <span className={css.pencilword}>What-if</span> <span className="mute">nothing saved</span>
            </th>
            {options.map((o) => (
              <th scope="col" key={o.id}>
                {TITLES[o.id] ?? o.id}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, title]) => (
            <tr key={name}>
              <th scope="row">{title}</th>
              {options.map((o) => (
                <td
                  key={o.id}
                  className={`mono ${o.id === "now" ? "" : css.tryfigure}`}
                  data-option={`${o.id}.${name}`}
                >
                  <Shown of={o[name]} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {says.map((s) => (
        <p key={s}>{s}</p>
      ))}
      {children}
    </section>
  );
}
