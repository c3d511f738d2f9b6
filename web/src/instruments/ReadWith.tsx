/** What this sheet is read with: one line at the head of a bench, and the instruments to choose from. */
import { useState } from "react";
import { useKeys, VerdictShape } from "../base";
import { groups, readers } from "./logic";
import { useRegisterOf, type Instrument, type Named, type Register } from "./queries";
import { Sign } from "./Sign";
import css from "./instruments.module.scss";

interface Props {
  site: number;
  reads: string[];
  named: Named;
  may: boolean;
}
export function ReadWith({ site, reads, named, may }: Props) {
  const register = useRegisterOf(site).data;
  const [open, setOpen] = useState(false);
  const asked = register ? reads.filter((r) => readers(register, r).length > 0) : [];
  const choosing = may && asked.length > 0;
  useKeys(choosing ? [{ key: "q", does: "choose the instruments", run: () => setOpen((o) => !o) }] : []);
  if (!register || asked.length === 0) return null;
  return (
    <section className={css.readwith} aria-label="Instruments">
      <p className={css.line}>
        <span className="mute">Read with</span>
        {groups(asked, named.hand, register).map(({ tool, words }) =>
          tool ? (
            <span key={tool.id} className={css.named} data-instrument={tool.name}>
              <Sign kind={tool.kind} /> <strong>{tool.name}</strong> <span className="mute">{words}</span>
              {tool.verdict !== "good" && (
                <span className={`v-${tool.verdict} ${css.says}`}>
                  <VerdictShape verdict={tool.verdict} /> {tool.says}
                </span>
              )}
            </span>
          ) : (
            <span key={words} className={`v-unknown ${css.named}`}>
              <VerdictShape verdict="unknown" /> no instrument chosen for {words}
            </span>
          ),
        )}
        {choosing && (
          <button className="linklike" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Close" : "Choose"}
          </button>
        )}
      </p>
      {open && choosing && <Rack register={register} asked={asked} named={named} />}
    </section>
  );
}
/** One row for each thing that is read here, its instruments beside each other as they would hang on a board. */
function Rack({ register, asked, named }: { register: Register; asked: string[]; named: Named }) {
  return (
    <div className={css.rack}>
      {asked.map((reads) => (
        <div key={reads} role="group" aria-label={register.words[reads] ?? reads}>
          <span className={css.what}>{register.words[reads]}</span>
          <span className={css.hooks}>
            {readers(register, reads).map((i) => (
              <Hook
                key={i.id}
                tool={i}
                reads={reads}
                held={named.hand[reads] === String(i.id)}
                onTake={() => named.take(reads, named.hand[reads] === String(i.id) ? null : String(i.id))}
              />
            ))}
          </span>
        </div>
      ))}
    </div>
  );
}
function Hook({
  tool,
  reads,
  held,
  onTake,
}: {
  tool: Instrument;
  reads: string;
  held: boolean;
  onTake: () => void;
}) {
  const span = tool.spans.find((s) => s.reads === reads);
  return (
    <button className={`${css.hook} ${held ? css.held : ""}`} aria-pressed={held} onClick={onTake}>
      <Sign kind={tool.kind} />
      <span>
        <strong>{tool.name}</strong> {tool.category && <span className="mute">{tool.category}</span>}
        <span className={css.fine}>{span && `to ${span.top}, by ${span.step}`}</span>
        {tool.verdict !== "good" && (
          <span className={`v-${tool.verdict} ${css.fine}`}>
            <VerdictShape verdict={tool.verdict} size={13} /> {tool.says}
          </span>
        )}
      </span>
    </button>
  );
}
