/** Every bench's page: what it needs is fetched, its gate asked, and its own drawing shown with them. */
import {
  dayTime,
  enteredFields,
  Fetched,
  Ready,
  together,
  useBenches,
  useGet,
  useKept,
  useMe,
  useSchema,
} from "../../base";
import { useBenchPage } from "../../logbook";
import { useSet } from "../../plant";
import { Gate } from "../components";
import type { BenchDef } from "./define";
import { Heading } from "./Heading";
import type { Given } from "./tools";

export function BenchPage({ def }: { def: BenchDef }) {
  const { id, recordId, mode, record } = useBenchPage();
  const set = useKept(`set:${id}`, useSet(id));
  const benches = useKept("benches", useBenches());
  const schema = useKept(`schema:${def.bench}`, useSchema(`/api/v1/benches/${def.bench}/schema`));
  // Every bench has a case of one shape: any of their addresses types it.
  const told = useGet(`/api/v1/benches/${def.bench as "vibration"}/case/{set_id}`, { set_id: id });
  const found = useKept(`case:${def.bench}:${id}`, told);
  const first = together({ set, benches, schema, case: found });
  const drawn = (given: Given, key: string) => (
    <>
      {found.since && <AsKnown since={found.since} />}
      <Fetched key={key} load={def.drawing} with={{ given }} />
    </>
  );
  return (
    <Ready query={first} what="Loading pump set">
      {(got) => {
        const bench = got.benches.find((b) => b.name === def.bench);
        if (!bench) return null;
        const rules = enteredFields(got.schema);
        const all = { set: got.set, bench, schema: got.schema, rules, case: got.case };
        if (recordId !== null)
          return <Ready query={record}>{(r) => drawn({ ...all, mode, record: r }, `${mode}${r.id}`)}</Ready>;
        const given: Given = { ...all, mode: "new", record: null };
        // Who may only look takes no reading: nothing is kept back from him.
        if (!bench.gated || got.set.may === "viewer") return drawn(given, "new");
        return (
          <Gate
            setId={id}
            act={bench.act}
            what={bench.gated}
            seen={bench.seen}
            heading={<Heading given={given} />}
          >
            {() => drawn(given, "new")}
          </Gate>
        );
      }}
    </Ready>
  );
}
/** Nobody can be reached: the bench opens on what was told last, and says so. */
function AsKnown({ since }: { since: Date }) {
  const { locale } = useMe();
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <p className="notice" role="status">
      No connection. The set stands here as it was told on {dayTime(since.toISOString(), zone, locale)}; what
      you enter is stored on this device and sent later.
    </p>
  );
}
