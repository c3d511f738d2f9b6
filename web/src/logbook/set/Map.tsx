/** The train as the map of a set: beneath each part what it read last; a part is chosen by tapping it or its callout. */
import { useRef } from "react";
import { Link } from "react-router";
import { useNarrow, VerdictShape, type Schemas } from "../../base";
import { Leaders, Train, useKinds, type SetOut, type TrainTag } from "../../plant";
import { pathOf } from "./part";
import css from "./set.module.scss";

type State = Schemas["SetStateOut"];
/** Of each part as many figures as are read at a glance. */
const MOST = 2;

export function Map({
  set,
  state,
  tags,
  chosen,
  choose,
}: {
  set: SetOut;
  state: State;
  tags: TrainTag[];
  chosen: string;
  choose: (part: string) => void;
}) {
  const narrow = useNarrow();
  const wide = !useNarrow(900);
  const titles = useKinds().data?.parts ?? [];
  const drive = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const box = useRef<HTMLDivElement>(null);
  const flat = set.posture === "flat";
  const size = narrow ? (flat ? { width: 350 } : { scale: 1.3 }) : { scale: chosen ? 1.9 : flat ? 2.4 : 2 };
  return (
    <div className={css.map} ref={box} data-flat={flat}>
      <div className={css.train}>
        <Train
          kind={set.kind}
          posture={set.posture}
          slots={set.slots}
          control={drive}
          parts={state.parts}
          running={set.role !== "standby"}
          pipe
          {...size}
          label={set.tag}
          tags={tags}
          onPart={choose}
          chosen={chosen}
        />
      </div>
      {flat && wide && (
        <Leaders
          box={box}
          posture={set.posture}
          slots={set.slots}
          to="callout"
          tone={(part) => `v-${state.parts.find((p) => p.part === part)?.verdict ?? "none"}`}
        />
      )}
      {chosen && narrow ? (
        <Beside set={set} titles={titles} chosen={chosen} />
      ) : (
        <div
          className={chosen ? `${css.callouts} ${css.underpanel}` : css.callouts}
          role="list"
          aria-label="Parts"
        >
          {set.slots.map((slot) => (
            <Callout
              key={slot}
              setId={set.id}
              slot={slot}
              title={titles.find((p) => p.id === slot)?.title ?? ""}
              part={state.parts.find((p) => p.part === slot)}
              figures={state.figures.filter((f) => f.part === slot).slice(0, chosen ? 1 : MOST)}
              chosen={chosen === slot}
            />
          ))}
        </div>
      )}
    </div>
  );
}

/** On a phone: the part that is looked at between its neighbours. */
function Beside({ set, titles, chosen }: { set: SetOut; titles: Schemas["Part"][]; chosen: string }) {
  const at = set.slots.indexOf(chosen);
  const title = (slot: string) => titles.find((p) => p.id === slot)?.title ?? "";
  const to = (slot: string | undefined, sign: (t: string) => string) =>
    slot ? (
      <Link className={css.neighbour} to={pathOf(set.id, slot)}>
        {sign(title(slot))}
      </Link>
    ) : (
      <span />
    );
  return (
    <nav className={css.beside} aria-label="Parts">
      {to(set.slots[at - 1], (t) => `‹ ${t}`)}
      <span className={css.current} aria-current="true">
        {title(chosen)}
      </span>
      {to(set.slots[at + 1], (t) => `${t} ›`)}
    </nav>
  );
}

function Callout({
  setId,
  slot,
  title,
  part,
  figures,
  chosen,
}: {
  setId: number;
  slot: string;
  title: string;
  part: State["parts"][number] | undefined;
  figures: State["figures"];
  chosen: boolean;
}) {
  return (
    <div
      role="listitem"
      className={part || figures.length ? css.calloutbox : `${css.calloutbox} ${css.bare}`}
      data-callout={slot}
    >
      <Link
        className={chosen ? `${css.callout} ${css.here}` : css.callout}
        to={chosen ? pathOf(setId, "") : pathOf(setId, slot)}
        aria-current={chosen ? "true" : undefined}
      >
        <span className={`${css.partname} v-${part?.verdict ?? "none"}`}>
          {part && <VerdictShape verdict={part.verdict} size={13} />} {title}
        </span>
        {figures.map((f) => (
          <span key={f.measurand} className={css.figureline}>
            <span className="mono">{f.figure}</span> <span className={css.unit}>{f.unit}</span>
            <span className={css.label}>{f.label}</span>
          </span>
        ))}
        {figures.length === 0 && <span className={css.label}>{part ? part.verdict : "no readings"}</span>}
      </Link>
    </div>
  );
}
