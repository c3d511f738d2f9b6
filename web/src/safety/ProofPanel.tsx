/** Dead, proved in three acts: the tester on a live source, every conductor to each other and to ground, the live source again. */
import { useState } from "react";
import {
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
} from "../base";
import { useSafetyWords, type SafeBody, type SetSafety } from "./queries";
import css from "./safety.module.scss";

interface Typed {
  tester: string;
  point: string;
  live: string;
  after: string;
  read: Record<string, string>;
}
const NOTHING: Typed = { tester: "", point: "", live: "", after: "", read: {} };
/** Where each pair's figure stands: between its two conductors, or between one and ground. */
const PLACE: Record<string, [number, number]> = {
  v12: [105, 40],
  v23: [235, 40],
  v31: [170, 92],
  v1g: [40, 150],
  v2g: [170, 150],
  v3g: [300, 150],
};

export function ProofPanel({
  safety,
  add,
  refusal,
}: {
  safety: SetSafety;
  add: (body: SafeBody) => Promise<boolean>;
  refusal: unknown;
}) {
  const words = useSafetyWords();
  const me = useMe();
  const narrow = useNarrow();
  const draft = useDraft<Typed>(
    `${me.username}:proof:${safety.set_id}:${safety.isolation.sheet || "new"}`,
    NOTHING,
  );
  const [held, setHeld] = useState<string | null>(null);
  const proof = safety.isolation.proof;
  const v = draft.value;
  const pairs = safety.isolation.conductors;
  const act = proof.state === "begun" ? 2 : proof.state === "read" ? 3 : 1;
  const volts = (text: string): Entered => ({ text, unit: "V" });
  const put = (name: string, text: string) =>
    draft.change((d) =>
      name === "live" || name === "after"
        ? { ...d, [name]: text }
        : { ...d, read: { ...d.read, [name]: text } },
    );
  const textOf = (name: string) =>
    name === "live" ? v.live : name === "after" ? v.after : (v.read[name] ?? "");
  const fields = act === 1 ? ["live"] : act === 3 ? ["after"] : pairs;
  const next = (name: string) => fields[fields.indexOf(name) + 1];
  const go = async () => {
    setHeld(null);
    // Every proof has readings of its own: what was typed for an earlier one never stands for it.
    if (act === 1) {
      if (await add({ kind: "proof", act: "live_before", tester: v.tester, live_volts: volts(v.live) }))
        draft.change((d) => ({ ...d, after: "", read: {} }));
    } else if (act === 2)
      await add({
        kind: "proof",
        act: "dead",
        tester: v.tester,
        point: v.point,
        ...Object.fromEntries(pairs.filter((p) => v.read[p]?.trim()).map((p) => [p, volts(v.read[p] ?? "")])),
      });
    else if (await add({ kind: "proof", act: "live_after", tester: v.tester, live_volts: volts(v.after) }))
      draft.done({ ...NOTHING, tester: v.tester });
  };
  const onward = (name: string) => {
    const to = next(name);
    if (to) document.getElementById(`p-${to}`)?.focus();
    else void go();
  };
  const input = (name: string, label: string) => (
    <FigureInput
      id={`p-${name}`}
      label={label}
      value={volts(textOf(name))}
      unit="V"
      keypad={narrow}
      onHold={() => setHeld(name)}
      onChange={(next) => put(name, next?.text ?? "")}
      onNext={() => onward(name)}
    />
  );
  const ready =
    act === 1
      ? Boolean(v.tester.trim() && v.live.trim())
      : act === 3
        ? Boolean(v.after.trim())
        : pairs.every((p) => v.read[p]?.trim());
  return (
    <div
      className={narrow && held ? `proof ${css.haskeypad}` : "proof"}
      data-testid="proof"
      data-proof={proof.state}
    >
      {proof.why && (
        <p className={proof.state === "void" ? "v-stop" : "v-watch"} role="alert">
          {proof.why}
        </p>
      )}
      <ol className="acts" aria-label="Three acts">
        {["a known live source", "every conductor", "the live source again"].map((w, i) => (
          <li
            key={w}
            aria-current={i + 1 === act ? "step" : undefined}
            className={i + 1 < act ? "done" : i + 1 === act ? "now" : ""}
          >
            {i + 1} {w}
          </li>
        ))}
      </ol>
      {act !== 2 ? (
        <div className="liveact">
          {act === 1 && (
            <span className="setupfield">
              <label htmlFor="p-tester">tester</label>
              <input
                id="p-tester"
                value={v.tester}
                autoComplete="off"
                className={small.w9}
                onFocus={() => setHeld(null)}
                onChange={(e) => draft.change((d) => ({ ...d, tester: e.target.value }))}
              />
            </span>
          )}
          <span className="setupfield">
            <label htmlFor={`p-${act === 1 ? "live" : "after"}`}>
              {act === 1
                ? "it shows on a known live source"
                : `${proof.tester || "the tester"} shows on the live source again`}
            </label>
            <span className="withunit">
              {input(
                act === 1 ? "live" : "after",
                act === 1 ? "Volts on a known live source" : "Volts on the live source again",
              )}{" "}
              V
            </span>
          </span>
        </div>
      ) : (
        <>
          <span className="setupfield">
            <label htmlFor="p-point">point of work</label>
            <input
              id="p-point"
              value={v.point}
              autoComplete="off"
              className={small.w14}
              onFocus={() => setHeld(null)}
              onChange={(e) => draft.change((d) => ({ ...d, point: e.target.value }))}
            />
          </span>
          <div className={css.conductors}>
            <svg viewBox="0 0 340 200" aria-hidden="true">
              {pairs.length > 3 ? (
                <path className="dimline" d="M40 16H300M40 16V186M170 16V186M300 16V186M40 16V68H300V16" />
              ) : (
                <path className="dimline" d="M40 16H170M40 16V186M170 16V186" />
              )}
              <path className="earth" d="M20 186H320M150 192H190M158 198H182" />
              {(pairs.length > 3 ? ["L1", "L2", "L3"] : ["L", "N"]).map((n, i) => (
                <g key={n}>
                  <circle cx={40 + i * 130} cy={16} r={5} className="pin" />
                  <text x={52 + i * 130} y={12}>
                    {n}
                  </text>
                </g>
              ))}
            </svg>
            {pairs.map((p) => (
              <Spot
                key={p}
                className="pair"
                at={{
                  left: `${((PLACE[p]?.[0] ?? 0) / 340) * 100}%`,
                  top: `${((PLACE[p]?.[1] ?? 0) / 200) * 100}%`,
                }}
              >
                {input(p, words.data?.conductors[p] ?? p)}
              </Spot>
            ))}
          </div>
        </>
      )}
      <Complaint error={refusal} />
      <button className="btn-ink" disabled={!ready} onClick={() => void go()}>
        {act === 1
          ? "The tester answers"
          : act === 2
            ? "Read on every conductor"
            : "It still answers: proved"}
      </button>
      {narrow && held && (
        <Keypad
          left={me.hand === "left"}
          says={
            <span className="mute">
              {held === "live" || held === "after"
                ? "Volts on the live source"
                : words.data?.conductors[held]}
            </span>
          }
          unit="V"
          units={[{ code: "V", symbol: "V" }]}
          last=""
          nextLabel={next(held) ? "next" : "take it"}
          onKey={(k) => put(held, press(textOf(held), k))}
          onUnit={() => undefined}
          onSame={() => undefined}
          onClear={() => {
            setHeld(null);
            (document.activeElement as HTMLElement | null)?.blur();
          }}
          onNext={() => onward(held)}
        />
      )}
    </div>
  );
}
