/** The keypad for the figure in hand, with what the sheet says standing on it. */
import { Keypad, press, useMe } from "../../base";
import { useTools } from "./tools";

export function KeypadBelow({ name }: { name: string }) {
  const me = useMe();
  const t = useTools();
  const rule = t.given.rules[name];
  const text = t.entered(name)?.text ?? "";
  const ghost = t.answer?.ghosts.find((g) => g.field === name && g.whose === "last");
  const last = ghost && !ghost.differs ? ghost.text : "";
  const over = t.order.at(-1) === name && !t.onNext;
  const away = () => {
    t.hold(null);
    (document.activeElement as HTMLElement | null)?.blur();
  };
  return (
    <Keypad
      left={me.hand === "left"}
      says={
        <>
          <Says label={rule?.label ?? ""} />
          {t.words?.(name)}
        </>
      }
      unit={t.unitOf(name)}
      units={(rule?.units ?? []).map((u) => ({ code: u, symbol: t.symbols[u] ?? u }))}
      last={last}
      nextLabel={over ? "done" : (t.nextLabel?.(name) ?? "next")}
      onKey={(k) => t.type(name, press(text, k))}
      onUnit={(u) => (t.onUnit ? t.onUnit(name, u) : t.type(name, text, u))}
      onSame={() => t.type(name, last)}
      onClear={() => (text ? t.type(name, "") : away())}
      onNext={() => (over ? away() : t.next(name))}
    />
  );
}
/** What is wrong with the figures, else what they say first, else which figure this is. */
function Says({ label }: { label: string }) {
  const { answer } = useTools();
  const problem = answer?.problems[0];
  const top = answer?.findings[0];
  if (problem) return <span className="v-act">{problem.message}</span>;
  if (!top) return <span className="mute">{label}</span>;
  return (
    <span>
      <strong className={`v-${top.verdict}`}>
        {top.title}: {top.verdict}.
      </strong>{" "}
      {top.reason}
    </span>
  );
}
