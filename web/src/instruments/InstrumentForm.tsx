/** An instrument as it is entered: its label and kind, then a scale for each thing it measures. */
import {
  Act,
  Complaint,
  FigureInput,
  SENDING,
  address,
  useMe,
  useSmallForm,
  useSymbols,
  type Entered,
} from "../base";
import { Day } from "./Day";
import { Sign } from "./Sign";
import type { Instrument, Register } from "./queries";
import css from "./instruments.module.scss";

type Kind = Register["kinds"][number];
interface Scale {
  top: Entered | null;
  step: Entered | null;
}
interface Draft {
  name: string;
  kind: string;
  category: "" | "II" | "III" | "IV";
  rated: Entered | null;
  scales: Record<string, Scale>;
  since: string;
}
const start = (tool: Instrument | undefined, kinds: Kind[]): Draft => ({
  name: tool?.said.name ?? "",
  kind: tool?.kind ?? kinds[0]?.id ?? "",
  category: tool?.said.category ?? "",
  rated: tool?.said.category_volts ?? null,
  scales: Object.fromEntries((tool?.said.spans ?? []).map((s) => [s.reads, { top: s.top, step: s.step }])),
  since: "",
});
const typed = (s: Scale | undefined): boolean =>
  Boolean(s?.top?.text.trim()) || Boolean(s?.step?.text.trim());

export function InstrumentForm({
  site,
  kinds,
  tool,
  close,
}: {
  site: number;
  kinds: Kind[];
  tool?: Instrument;
  close: () => void;
}) {
  const me = useMe();
  const symbols = useSymbols();
  const form = useSmallForm<Draft>(`instrument:${tool?.id ?? site}`, start(tool, kinds));
  const { v, set } = form;
  const kind = kinds.find((k) => k.id === v.kind);
  const scale = (reads: string, more: Partial<Scale>) =>
    set({ scales: { ...v.scales, [reads]: { top: null, step: null, ...v.scales[reads], ...more } } });
  const said = () => ({
    name: v.name,
    kind: v.kind,
    note: tool?.said.note ?? "",
    category: kind?.live ? v.category : ("" as const),
    category_volts: kind?.live ? v.rated : null,
    spans: (kind?.reads ?? [])
      .filter((r) => typed(v.scales[r.reads]))
      .map((r) => {
        const { top, step } = v.scales[r.reads] ?? { top: null, step: null };
        return { reads: r.reads, top: top ?? { text: "", unit: "" }, step: step ?? { text: "", unit: "" } };
      }),
  });
  const send = async () => {
    const ok = tool
      ? await form.send(
          "PUT",
          address("/api/v1/instruments/{instrument_id}", { instrument_id: tool.id }),
          { ...said(), version: tool.version },
          v.name,
        )
      : await form.send(
          "POST",
          address("/api/v1/sites/{site_id}/instruments", { site_id: site }),
          { ...said(), since: v.since || null },
          v.name,
        );
    if (ok) close();
  };
  const n = tool?.id ?? "new";
  return (
    <section className={css.entry} aria-label={tool ? `Change ${tool.name}` : "New instrument"}>
      <div className={css.plate}>
        <Sign kind={v.kind} size={72} />
        <div className="field">
          <label htmlFor={`i-name-${n}`}>Label</label>
          <input
            id={`i-name-${n}`}
            maxLength={60}
            value={v.name}
            onChange={(e) => set({ name: e.target.value })}
          />
        </div>
        <div className="field">
          <label htmlFor={`i-kind-${n}`}>Kind</label>
          <select
            id={`i-kind-${n}`}
            value={v.kind}
            disabled={tool !== undefined}
            onChange={(e) => set({ kind: e.target.value })}
          >
            {kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.title}
              </option>
            ))}
          </select>
        </div>
        {kind?.live && (
          <>
            <div className="field">
              <label htmlFor={`i-cat-${n}`}>Measurement category</label>
              <select
                id={`i-cat-${n}`}
                value={v.category}
                onChange={(e) => set({ category: e.target.value as Draft["category"] })}
              >
                <option value="">none printed</option>
                {(["II", "III", "IV"] as const).map((c) => (
                  <option key={c} value={c}>
                    CAT {c}
                  </option>
                ))}
              </select>
            </div>
            <span className="field">
              <label htmlFor={`i-volts-${n}`}>its voltage</label>
              <span className={css.figure}>
                <FigureInput
                  id={`i-volts-${n}`}
                  label="its voltage"
                  value={v.rated}
                  unit="V"
                  symbols={symbols}
                  digits
                  onChange={(rated) => set({ rated })}
                />
                <span>{symbols.V}</span>
              </span>
            </span>
          </>
        )}
      </div>
      <ul className={css.scales} aria-label="What it measures">
        {(kind?.reads ?? []).map((r) => (
          <li key={r.reads} className={typed(v.scales[r.reads]) ? css.on : ""}>
            <span className={css.what}>{r.word}</span>
            {(["step", "top"] as const).map((end) => (
              <span key={end} className="field">
                <label htmlFor={`i-${r.reads}-${end}-${n}`}>{end === "top" ? "up to" : "by steps of"}</label>
                <span className={css.figure}>
                  <FigureInput
                    id={`i-${r.reads}-${end}-${n}`}
                    label={`${r.word}, ${end === "top" ? "up to" : "by steps of"}`}
                    value={v.scales[r.reads]?.[end]}
                    unit={v.scales[r.reads]?.[end]?.unit || me.units[r.reads] || (r.units[0] ?? "")}
                    units={r.units}
                    symbols={symbols}
                    digits
                    onChange={(next) => scale(r.reads, { [end]: next })}
                    onUnit={(unit) =>
                      scale(r.reads, { [end]: { text: v.scales[r.reads]?.[end]?.text ?? "", unit } })
                    }
                  />
                  {r.units.length === 1 && <span>{symbols[r.units[0] ?? ""]}</span>}
                </span>
              </span>
            ))}
          </li>
        ))}
      </ul>
      {!tool && (
        <div className={css.when}>
          <Day
            id="i-since"
            label="In service since (today, if empty)"
            value={v.since}
            onChange={(since) => set({ since })}
          />
        </div>
      )}
      <div className="savebar">
        <button
          className="btn-line"
          onClick={() => {
            form.drop();
            close();
          }}
        >
          Cancel
        </button>
        <Act
          className="btn-ink"
          waits={(form.busy && SENDING) || (!v.name.trim() && "Enter what stands on its label.")}
          onClick={() => void send()}
        >
          {tool ? "Save changes" : "Add to the register"}
        </Act>
      </div>
      <Complaint error={form.error} />
    </section>
  );
}
