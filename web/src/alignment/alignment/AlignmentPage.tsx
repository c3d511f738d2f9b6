/** The alignment of a coupling, a whole visit: measures, what is looked at before, passes, shims, drawing up, the coupling; then on record. */
import { useMemo } from "react";
import {
  deviceName,
  enteredFields,
  Ready,
  useGet,
  useSchema,
  type EnteredRule,
  type Schemas,
  type SheetEntry,
} from "../../base";
import { useBenchPage, type Mode } from "../../logbook";
import { useSet, type SetOut } from "../../plant";
import { Gate } from "../../safety";
import { Bench } from "./Bench";
import { carried, type Body } from "./logic";

export interface SheetProps {
  set: SetOut;
  rules: Record<string, EnteredRule>;
  known: Body;
  vans: string[];
  mode: Mode;
  record: Schemas["RecordOut"] | null;
  start: SheetEntry<Body>[];
}

/** The vans that the stores added to the case, by name. */
const vansOf = (extras: Record<string, unknown> | undefined): string[] =>
  ((extras?.vans ?? []) as { name: string }[]).map((v) => v.name);

export function AlignmentPage() {
  const { id, recordId, mode, record } = useBenchPage();
  const set = useSet(id);
  const schema = useSchema("/api/v1/benches/alignment/schema");
  const context = useGet("/api/v1/benches/alignment/case/{set_id}", { set_id: id });
  return (
    <Ready query={set} what="Fetching the set">
      {(s) => (
        <Ready query={schema}>
          {(sch) => (
            <Ready query={context}>
              {(c) => {
                const common = { set: s, rules: enteredFields(sch), vans: vansOf(c.extras) };
                return recordId === null ? (
                  <Gate
                    setId={s.id}
                    act="hands_on_coupling"
                    what="Work at the coupling"
                    seen="It was read all the same: write it down"
                  >
                    {() => (
                      <Bench
                        key="new"
                        {...common}
                        known={carried(c.context.last?.body)}
                        mode="new"
                        record={null}
                        start={[]}
                      />
                    )}
                  </Gate>
                ) : (
                  <Ready query={record}>
                    {(r) => <Again key={`${mode}${r.id}`} {...common} mode={mode} record={r} />}
                  </Ready>
                );
              }}
            </Ready>
          )}
        </Ready>
      )}
    </Ready>
  );
}
/** A record's visit as entries again: the start of a correction, or of a try in pencil. */
function Again({ record, ...more }: Omit<SheetProps, "known" | "start"> & { record: Schemas["RecordOut"] }) {
  const start = useMemo(() => {
    const body = record.body as Body & { log?: { at: string; body: Body }[] };
    const log = body.log ?? [{ at: record.taken_at, body }];
    return log.map((e): SheetEntry<Body> => ({
      uuid: crypto.randomUUID(),
      taken_at: e.at,
      device: deviceName(),
      body: e.body,
    }));
  }, [record]);
  return start.length ? <Bench {...more} record={record} known={{}} start={start} /> : null;
}
