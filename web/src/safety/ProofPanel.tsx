/** Dead, proved in acts as the core compiles them: what is read at the one that is next, and where. No act is known here. */
import { useEffect, useState, type ReactNode } from "react";
import {
  Act,
  Complaint,
  FigureInput,
  Keypad,
  press,
  small,
  Spot,
  useDraft,
  useMe,
  useNarrow,
  type Entered,
  type Schemas,
} from "../base";
import type { SafeBody, SetSafety } from "./queries";
import css from "./safety.module.scss";

type Field = Schemas["ActField"];
/** What is typed, by act, proof and field: words and figures apart. */
interface Typed {
  words: Record<string, string>;
  figures: Record<string, string>;
}
const NOTHING: Typed = { words: {}, figures: {} };
/** Where a figure stands: between its two conductors, or between one and ground. The others stand in a line. */
const PLACE: Record<string, [number, number]> = {
  v12: [105, 40],
  v23: [235, 40],
  v31: [170, 92],
  v1g: [40, 150],
  v2g: [170, 150],
  v3g: [300, 150],
};

export interface Proving {
  safety: SetSafety;
  add: (body: SafeBody) => Promise<boolean>;
  refusal: unknown;
}
export function ProofPanel({ safety, add, refusal }: Proving) {
  const me = useMe();
  const narrow = useNarrow();
  const { proof, sheet } = safety.isolation;
  const draft = useDraft<Typed>(`${me.username}:acts:${safety.set_id}:${sheet || "new"}`, NOTHING);
  const [held, setHeld] = useState<string | null>(null);
  const act = proof.steps.find((s) => s.state === "now");
  // Every proof has readings of its own: what was typed at another act, or for an earlier proof, never stands for it.
  const mine = `${act?.id}.${proof.acts.live_before ?? ""}.`;
  const { change } = draft;
  const stale = Object.keys(draft.value.figures).some((key) => !key.startsWith(mine));
  useEffect(() => {
    const own = ([key]: [string, string]) => key.startsWith(mine);
    if (stale) change((d) => ({ ...d, figures: Object.fromEntries(Object.entries(d.figures).filter(own)) }));
  }, [stale, mine, change]);
  if (!act) return null;
  const { fields } = act;
  const keyOf = (name: string) => mine + name;
  const kindOf = (name: string) => (fields.find((f) => f.name === name)?.unit ? "figures" : "words");
  const textOf = (name: string) => draft.value[kindOf(name)][keyOf(name)] ?? "";
  const put = (name: string, text: string) =>
    draft.change((d) => ({ ...d, [kindOf(name)]: { ...d[kindOf(name)], [keyOf(name)]: text } }));
  const given = (f: Field): Entered | string =>
    f.unit ? { text: textOf(f.name), unit: f.unit } : textOf(f.name);
  const figures = fields.filter((f) => f.unit);
  const next = (name: string) => figures[figures.findIndex((f) => f.name === name) + 1]?.name;
  const go = async () => {
    setHeld(null);
    const said = fields.filter((f) => textOf(f.name).trim()).map((f) => [f.name, given(f)] as const);
    const taken = await add({ ...(act.entry as SafeBody), ...Object.fromEntries(said) });
    if (taken && proof.steps.at(-1) === act) draft.done(NOTHING);
  };
  const onward = (name: string) => {
    const to = next(name);
    if (to) document.getElementById(`p-${to}`)?.focus();
    else void go();
  };
  const figure = ({ name, label, unit }: Field) => (
    <FigureInput
      id={`p-${name}`}
      label={label}
      value={{ text: textOf(name), unit }}
      unit={unit}
      keypad={narrow}
      onHold={() => setHeld(name)}
      onChange={(typed) => put(name, typed?.text ?? "")}
      onNext={() => onward(name)}
    />
  );
  const drawn = figures.filter((f) => PLACE[f.name]);
  const lacking = fields.filter((f) => !f.optional && !textOf(f.name).trim());
  const ready = lacking.length === 0;
  const inHand = figures.find((f) => f.name === held);
  return (
    <div
      className={narrow && held ? `${css.proof} ${css.haskeypad}` : css.proof}
      data-testid="proof"
      data-proof={proof.state}
    >
      {proof.why && (
        <p className={proof.state === "void" ? "v-stop" : "v-watch"} role="alert">
          {proof.why}
        </p>
      )}
      <ol className={css.acts} aria-label="Live–dead–live">
        {proof.steps.map((s, i) => (
          <li
            key={s.id}
            aria-current={s.state === "now" ? "step" : undefined}
            className={s.state === "later" ? "" : s.state}
          >
            {i + 1} {s.title}
          </li>
        ))}
      </ol>
      {act.says && <p className="mute">{act.says}</p>}
      <div className={css.liveact}>
        {fields
          .filter((f) => !drawn.includes(f))
          .map((f) => (
            <span key={f.name} className="setupfield">
              <label htmlFor={`p-${f.name}`}>{f.beside || f.label}</label>
              {f.unit ? (
                <span className="withunit">
                  {figure(f)} {f.unit}
                </span>
              ) : (
                <input
                  id={`p-${f.name}`}
                  value={textOf(f.name)}
                  autoComplete="off"
                  className={small.w14}
                  onFocus={() => setHeld(null)}
                  {...(f.choices.length > 0 ? { list: `p-${f.name}-known` } : {})}
                  onChange={(e) => put(f.name, e.target.value)}
                />
              )}
              {f.choices.length > 0 && (
                <datalist id={`p-${f.name}-known`}>
                  {f.choices.map((c) => (
                    <option key={c} value={c} />
                  ))}
                </datalist>
              )}
            </span>
          ))}
      </div>
      {drawn.length > 0 && <Conductors drawn={drawn} figure={figure} />}
      <Complaint error={refusal} />
      <Act
        className="btn-ink"
        waits={!ready && `Not entered: ${lacking.map((f) => f.label).join(", ")}.`}
        onClick={() => void go()}
      >
        {act.word}
      </Act>
      {narrow && inHand && (
        <Keypad
          left={me.hand === "left"}
          says={<span className="mute">{inHand.label}</span>}
          unit={inHand.unit}
          units={[{ code: inHand.unit, symbol: inHand.unit }]}
          last=""
          nextLabel={next(inHand.name) ? "next" : "save"}
          onKey={(k) => put(inHand.name, press(textOf(inHand.name), k))}
          onUnit={() => undefined}
          onSame={() => undefined}
          onClear={() => {
            setHeld(null);
            (document.activeElement as HTMLElement | null)?.blur();
          }}
          onNext={() => onward(inHand.name)}
        />
      )}
    </div>
  );
}
/** The conductors and ground, each figure between the two that it is read on. */
function Conductors({ drawn, figure }: { drawn: Field[]; figure: (f: Field) => ReactNode }) {
  const three = drawn.length > 3;
  return (
    <div className={css.conductors}>
      <svg viewBox="0 0 340 200" aria-hidden="true">
        {three ? (
          <path className={css.dimline} d="M40 16H300M40 16V186M170 16V186M300 16V186M40 16V68H300V16" />
        ) : (
          <path className={css.dimline} d="M40 16H170M40 16V186M170 16V186" />
        )}
        <path className={css.earth} d="M20 186H320M150 192H190M158 198H182" />
        {(three ? ["L1", "L2", "L3"] : ["L", "N"]).map((n, i) => (
          <g key={n}>
            <circle cx={40 + i * 130} cy={16} r={5} className={css.pin} />
            <text x={52 + i * 130} y={12}>
              {n}
            </text>
          </g>
        ))}
      </svg>
      {drawn.map((f) => {
        const [x, y] = PLACE[f.name] ?? [0, 0];
        return (
          <Spot
            key={f.name}
            className={css.pair}
            at={{ left: `${(x / 340) * 100}%`, top: `${(y / 200) * 100}%` }}
          >
            {figure(f)}
          </Spot>
        );
      })}
    </div>
  );
}
