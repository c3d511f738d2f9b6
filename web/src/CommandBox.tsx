/** A set by three letters of its tag, place or nickname; a page by its name. */
import { useCombobox } from "downshift";
import { matchSorter } from "match-sorter";
import { useEffect, useState, type KeyboardEvent } from "react";
import Modal from "react-bootstrap/Modal";
import { useNavigate } from "react-router";
import {
  benchesOf,
  benchPath,
  day,
  useBenches,
  useGet,
  useMe,
  useQuiet,
  VerdictShape,
  type Schemas,
} from "./base";
import { usePlant, type PlantSet } from "./logbook";
import { chosenSite, findSets, useSites } from "./plant";
import css from "./app.module.scss";

interface Row {
  word: string;
  to: string;
  set?: PlantSet;
  hit?: Schemas["FoundOut"];
}
/** What kind of thing was found, in a word before it. */
const KINDS: Record<Schemas["FoundOut"]["kind"], string> = {
  part: "Part",
  event: "Repair or event",
  record: "Record",
  document: "Photo or document",
  call: "Call",
  open: "Open item",
};
/** So long the hand rests before the server is asked. */
const REST_MS = 250;
const PAGES: Row[] = [
  { word: "Plant", to: "/" },
  { word: "Work", to: "/work" },
  { word: "Stores", to: "/stores" },
  { word: "How pumps are built", to: "/anatomy/base_mounted" },
  { word: "Call", to: "/call" },
  { word: "Shift handover", to: "/hand-over" },
  { word: "Register", to: "/register" },
  { word: "Rules", to: "/rules" },
  { word: "Vans", to: "/vans" },
  { word: "Files", to: "/readings" },
];
const MOST = 9;

interface Props {
  close: () => void;
  /** The set that is looked at: what can be begun on it is found, too. */
  setId: number | null;
}
export function CommandBox({ show, ...props }: Props & { show: boolean }) {
  useQuiet(show);
  // At once, both ways: while it faded it would take the focus from the next one, and what is typed there.
  return (
    <Modal show={show} onHide={props.close} animation={false} aria-label="Find">
      <Finder {...props} />
    </Modal>
  );
}
/** What goes by this text: sets, what can be begun on the one looked at, pages. */
function useRows(setId: number | null, text: string): Row[] {
  const site = chosenSite(useSites().data);
  const plant = usePlant(site?.id ?? null);
  const benches = useBenches().data;
  const said = useRested(text.trim());
  const asked = site && said.length >= 3 ? { site_id: site.id, words: said } : null;
  const hits = useGet("/api/v1/sites/{site_id}/found", asked, { staleTime: 0 }).data ?? [];
  const here = useGet("/api/v1/sets/{set_id}", setId === null ? null : { set_id: setId }).data;
  if (!text) return [];
  const sets = findSets(plant.data?.services.flatMap((s) => s.sets) ?? [], text).slice(0, MOST);
  const onSet = here && here.may !== "viewer" ? benchesOf(benches, here) : [];
  const begun = onSet.map((b) => ({
    word: `${b.offer}, ${here?.tag}`,
    to: benchPath(here?.id ?? 0, b.name),
  }));
  const threshold = matchSorter.rankings.STARTS_WITH;
  return [
    ...sets.map((set) => ({ word: set.tag, to: `/sets/${set.id}`, set })),
    ...(said === text.trim() ? hits : []).map((hit) => ({ word: hit.title, to: hit.to, hit })),
    ...[begun, PAGES].flatMap((rows) => matchSorter(rows, text, { keys: ["word"], threshold })),
  ];
}
/** The text once the hand has rested. */
function useRested(text: string): string {
  const [rested, setRested] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setRested(text), REST_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return rested;
}
function Finder({ close, setId }: Props) {
  const [text, setText] = useState("");
  const go = useNavigate();
  const rows = useRows(setId, text);
  const take = (row: Row | null | undefined) => {
    if (!row) return;
    close();
    void go(row.to);
  };
  const list = useCombobox<Row>({
    items: rows,
    isOpen: true,
    inputValue: text,
    defaultHighlightedIndex: 0,
    inputId: "find",
    menuId: "found",
    getItemId: (i) => `found-${i}`,
    itemToString: (row) => row?.word ?? "",
    onSelectedItemChange: ({ selectedItem }) => take(selectedItem),
  });
  // A mouse that merely lies where the list grew takes the highlight away: Enter means the first all the same.
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.key === "Enter" && list.highlightedIndex < 0) take(rows[0]);
  };
  return (
    <Modal.Body>
      <div className="field">
        <label {...list.getLabelProps()}>Tag, location, nickname, part, note, call or page</label>
        <input
          {...list.getInputProps({ onKeyDown, onChange: (e) => setText(e.currentTarget.value) })}
          autoFocus
          autoComplete="off"
        />
      </div>
      <ul {...list.getMenuProps()} className={`hist ${css.finder}`}>
        {rows.map((row, index) => (
          <li key={`${row.to} ${index}`} {...list.getItemProps({ item: row, index })}>
            {row.set ? <Found set={row.set} /> : row.hit ? <Hit hit={row.hit} /> : row.word}
          </li>
        ))}
      </ul>
      {text.length > 1 && rows.length === 0 && <p className="mute">No match.</p>}
    </Modal.Body>
  );
}
/** Not a set itself, but something of one: what it is, where, and the words that were looked for. */
function Hit({ hit }: { hit: Schemas["FoundOut"] }) {
  const me = useMe();
  return (
    <>
      <span className="mute">{KINDS[hit.kind]}</span> <span className="mono">{hit.tag}</span> {hit.title}{" "}
      <span className="mute">
        {hit.at && `${day(hit.at, "UTC", me.locale)} `}
        {hit.says}
      </span>
    </>
  );
}
function Found({ set }: { set: PlantSet }) {
  const where = [set.place, set.nickname && `“${set.nickname}”`].filter(Boolean).join(", ");
  return (
    <>
      <VerdictShape verdict={set.verdict} /> <span className="mono">{set.tag}</span> {set.name}{" "}
      <span className="mute">{where}</span>
    </>
  );
}
