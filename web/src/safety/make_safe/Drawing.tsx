/** A set made safe and given back: sources, locks, what is stored, dead in three acts, and the way home. */
import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import {
  Act,
  address,
  benchPath,
  Complaint,
  outbox,
  Ready,
  renew,
  small,
  useBenches,
  useKeys,
  type Schemas,
} from "../../base";
import { AddPicture, useWithin } from "../../logbook";
import { Train, useSites, type SetOut } from "../../plant";
import { Tags } from "../components";
import { Rail, StepNow } from "../Steps";
import { IsolationDrawing } from "./IsolationDrawing";
import { ListEditor } from "./ListEditor";
import { SourcesDrawn } from "./SourcesDrawn";
import type { Given } from "../frame";
import { ProofPanel } from "../ProofPanel";
import { useSafeSheet, useSafetyWords, type SafeBody, type SetSafety, type Source } from "../queries";
import css from "./drawing.module.scss";
import room from "../safety.module.scss";
import { AbsentLock } from "./AbsentLock";
import { HandOn } from "./HandOn";

type Step = Schemas["Step"];

export function Drawing({ given: { set } }: { given: Given }) {
  const sheet = useSafeSheet(set.id, set.tag);
  return (
    <Ready query={sheet.safety} what="Loading isolation status">
      {(safety) => <Stands set={set} safety={safety} sheet={sheet} />}
    </Ready>
  );
}

function Stands({
  set,
  safety,
  sheet,
}: {
  set: SetOut;
  safety: SetSafety;
  sheet: ReturnType<typeof useSafeSheet>;
}) {
  const iso = safety.isolation;
  const words = useSafetyWords();
  const go = useNavigate();
  const within = useWithin();
  const client = useQueryClient();
  const role = useSites().data?.find((s) => s.id === set.site_id)?.role ?? "viewer";
  const may = set.may !== "viewer";
  const lead = role === "lead" || role === "admin";
  const [editing, setEditing] = useState(false);
  const [refusal, setRefusal] = useState<unknown>(null);
  const [forgotten, setForgotten] = useState<{ s: Source; lock: Source["locks"][number] } | null>(null);
  const now = iso.steps.find((s) => s.state === "now");
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const save = async () => {
    setRefusal(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/benches/make_safe/records", {}),
        { set_id: set.id, sheet: iso.sheet, entries: [], reason: "" },
        `${set.tag}, returned to service`,
        `${iso.sheet}-record`,
      );
      sheet.forget();
      await renew(client, { set: set.id });
      if (within) within(undefined);
      else void go(`/sets/${set.id}`, { state: { left: true } });
    } catch (e) {
      setRefusal(e);
    }
  };
  const leave = async () => {
    setRefusal(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/sheets/{uuid}/leave", { uuid: iso.sheet }),
        { reason: "isolation cancelled, nothing isolated" },
        `${set.tag}, isolation cancelled`,
      );
      sheet.forget();
      await renew(client, { set: set.id });
    } catch (e) {
      setRefusal(e);
    }
  };
  useKeys([
    {
      key: "g",
      does: "return the set to service",
      run: () => {
        if (iso.back) void save();
      },
    },
  ]);
  const open = (scope: string) =>
    void sheet.add({
      kind: "open",
      scope: scope as NonNullable<SafeBody["scope"]>,
      sources: safety.list.lines,
    });
  const left = iso.wanting;
  return (
    <div className="makesafe">
      <div className={`rowflex ${small.betweenTop}`}>
        <h1>
          <span className="mono">{set.tag}</span>{" "}
          <span className={small.light}>{iso.back ? "Return to service" : "Isolation"}</span>
        </h1>
        <Train
          kind={set.kind}
          posture={set.posture}
          slots={set.slots}
          control={control}
          parts={[]}
          width={set.posture === "flat" ? 210 : 80}
          label={set.tag}
          tags={safety.tags}
        />
      </div>
      <p className="statesentence" data-testid="iso-state">
        {iso.scopes.length === 0 ? (
          "What will be opened or turned?"
        ) : (
          <>
            For work on{" "}
            {iso.scopes
              .map((s) => words.data?.scopes.find((x) => x.id === s)?.title.toLowerCase() ?? s)
              .join(" and ")}
            : <strong>{iso.stands}</strong>.
          </>
        )}{" "}
        {iso.workers.length > 0 && (
          <span>
            Locked on:{" "}
            {iso.workers.map((w) => (
              <span key={w.name} className={css.worker}>
                <strong>{w.name}</strong> <span className="mono">{w.age}</span>
              </span>
            ))}
          </span>
        )}
      </p>
      {sheet.pending.length > 0 && (
        <p className="notice" role="status">
          {sheet.pending.length === 1 ? "1 entry" : `${sheet.pending.length} entries`} on this device not sent
          yet: others cannot see {sheet.pending.length === 1 ? "it" : "them"}. Sent automatically, in order.
        </p>
      )}
      {iso.conflicts.length > 0 && (
        <div className="notice bad" role="alert">
          {iso.conflicts.map((c) => (
            <div key={c}>{c}</div>
          ))}
        </div>
      )}
      {iso.removals.map((r) => (
        <p key={r.at} className="mute">
          Absent worker’s lock removed by {r.by}: {r.words}
        </p>
      ))}
      {may && (iso.scopes.length === 0 || !iso.back) && (
        <Folded fold={iso.scopes.length > 0} words="Add work scope">
          <div className={room.scopes} role="group" aria-label="What will be opened or turned">
            {(words.data?.scopes ?? [])
              .filter((s) => !iso.scopes.includes(s.id))
              .map((s) => (
                <Act
                  key={s.id}
                  waits={safety.list.lines.length === 0 && "Save the isolation list first."}
                  saidBy="scope-waits"
                  title={s.does}
                  onClick={() => open(s.id)}
                >
                  {s.title}
                </Act>
              ))}
            {safety.list.lines.length === 0 && (
              <span id="scope-waits" className="mute">
                Save the isolation list first.
              </span>
            )}
          </div>
        </Folded>
      )}
      {editing || (safety.list.lines.length === 0 && may) ? (
        <ListEditor set={set} list={safety.list} unsaid={iso.unsaid} done={() => setEditing(false)} />
      ) : (
        <p className="mute">
          Isolation list: {safety.list.lines.filter((l) => !l.absent).length} sources, last saved by{" "}
          {safety.list.by || "nobody yet"}.{" "}
          {may && (
            <button className="linklike" onClick={() => setEditing(true)}>
              Review or edit
            </button>
          )}
          {iso.list_differs && may && (
            <>
              {" "}
              <strong className="v-watch">
                The isolation list has changed since this isolation started.
              </strong>{" "}
              <button
                className="linklike"
                onClick={() => void sheet.add({ kind: "list", sources: safety.list.lines })}
              >
                Use the new list
              </button>
            </>
          )}
        </p>
      )}
      {iso.scopes.length === 0 && !editing && safety.list.lines.length > 0 && (
        <SourcesDrawn
          set={set}
          lines={safety.list.lines}
          proposed={safety.list.proposed}
          more={[]}
          say={null}
        />
      )}
      {iso.unsaid.length > 0 && !editing && (
        <div className="notice bad">
          Not answered on the isolation list: {iso.unsaid.map((u) => u.title.toLowerCase()).join(", ")}.{" "}
          {may && (
            <button className="linklike" onClick={() => setEditing(true)}>
              Complete the list
            </button>
          )}
        </div>
      )}
      {iso.scopes.length > 0 && (
        <div className={css.safegrid}>
          <div className={css.draw}>
            <IsolationDrawing
              sources={iso.sources}
              may={may}
              pending={sheet.pending}
              onSay={sheet.sayAll}
              sheet={`${set.id}:${iso.sheet}`}
              onForgotten={(s, lock) => setForgotten({ s, lock })}
              lead={lead}
            />
            {forgotten && (
              <AbsentLock
                what={forgotten.s.title}
                owner={forgotten.lock.by}
                lock={forgotten.lock.id}
                setId={set.id}
                add={sheet.add}
                done={() => setForgotten(null)}
              />
            )}
            <Complaint error={sheet.refusal} />
          </div>
          <div className={css.nowcell}>
            {now && <Now step={now} safety={safety} sheet={sheet} may={may} setId={set.id} />}
            {may &&
              !iso.back &&
              (iso.state === "isolated" || iso.state === "proved" || iso.state === "live") && (
                <HandOn setId={set.id} add={sheet.add} iso={iso} />
              )}
            {iso.back && may && (
              <div className="savebar">
                {left.length > 0 && (
                  <p id="back-waits" className={`mute ${small.flushWide}`}>
                    Before return to service: {left.join("; ")}.
                  </p>
                )}
                <Act
                  className="btn-ink"
                  waits={left.length > 0 && left.join("; ")}
                  saidBy="back-waits"
                  onClick={() => void save()}
                >
                  Return to service
                </Act>
              </div>
            )}
            {may && iso.workers.length === 0 && iso.sources.every((s) => !s.shut) && !iso.back && (
              <button className="linklike" onClick={() => void leave()}>
                Cancel isolation: nothing isolated yet
              </button>
            )}
            <Complaint error={refusal} />
          </div>
          <div className={css.railcell}>
            <Rail steps={iso.steps} />
            {may && sheet.last && <AddPicture setId={set.id} tag={set.tag} entry={sheet.last} />}
          </div>
        </div>
      )}
      <Tags tags={safety.tags.filter((t) => t.kind !== "isolation" && t.kind !== "live")} />
    </div>
  );
}
function Folded({ fold, words, children }: { fold: boolean; words: string; children: ReactNode }) {
  return fold ? (
    <details className="spared">
      <summary>{words}</summary>
      {children}
    </details>
  ) : (
    <>{children}</>
  );
}
/** The step that is next, as the core compiled it: its caution where it bites, and what is said or done at it. */
function Now({
  step,
  safety,
  sheet,
  may,
  setId,
}: {
  step: Step;
  safety: SetSafety;
  sheet: ReturnType<typeof useSafeSheet>;
  may: boolean;
  setId: number;
}) {
  return (
    <StepNow
      step={step}
      sheet={`${setId}:${safety.isolation.sheet}`}
      may={may}
      onSay={sheet.sayAll}
      open={(what) =>
        what === "proof" ? (
          <ProofPanel safety={safety} add={sheet.add} refusal={sheet.refusal} />
        ) : (
          <LeadingBench setId={setId} />
        )
      }
    />
  );
}
/** The bench that a set is most often opened for. */
function LeadingBench({ setId }: { setId: number }) {
  const benches = useBenches().data ?? [];
  return (
    <p>
      {benches
        .filter((b) => b.leads)
        .map((b) => (
          <Link key={b.name} className="btn-ink" to={benchPath(setId, b.name)}>
            {b.offer}
          </Link>
        ))}
    </p>
  );
}
