/** A set by three letters of its tag, place or nickname; a page by its name. */
import { useCombobox } from "downshift";
import { matchSorter } from "match-sorter";
import { useState } from "react";
import Modal from "react-bootstrap/Modal";
import { useNavigate } from "react-router";
import { benchesOf, benchPath, useBenches, useGet, useQuiet, VerdictShape } from "./base";
import { usePlant, type PlantSet } from "./logbook";
import { chosenSite, findSets, useSites } from "./plant";
import css from "./app.module.scss";

interface Row {
  word: string;
  to: string;
  set?: PlantSet;
}
const PAGES: Row[] = [
  { word: "Plant", to: "/" },
  { word: "Call", to: "/call" },
  { word: "Shift handover", to: "/hand-over" },
  { word: "Register", to: "/register" },
  { word: "Rules", to: "/rules" },
];
const MOST = 9;

interface Props {
  close: () => void;
  /** The set that is looked at: what can be begun on it is found, too. */
  setId: number | null;
}
export function CommandBox({ show, ...props }: Props & { show: boolean }) {
  useQuiet(show);
  return (
    <Modal show={show} onHide={props.close} aria-label="Find">
      <Finder {...props} />
    </Modal>
  );
}
/** What goes by this text: sets, what can be begun on the one looked at, pages. */
function useRows(setId: number | null, text: string): Row[] {
  const site = chosenSite(useSites().data);
  const plant = usePlant(site?.id ?? null);
  const benches = useBenches().data;
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
    ...[begun, PAGES].flatMap((rows) => matchSorter(rows, text, { keys: ["word"], threshold })),
  ];
}
function Finder({ close, setId }: Props) {
  const [text, setText] = useState("");
  const go = useNavigate();
  const rows = useRows(setId, text);
  const list = useCombobox<Row>({
    items: rows,
    isOpen: true,
    inputValue: text,
    defaultHighlightedIndex: 0,
    inputId: "find",
    menuId: "found",
    getItemId: (i) => `found-${i}`,
    itemToString: (row) => row?.word ?? "",
    onSelectedItemChange: ({ selectedItem }) => {
      if (!selectedItem) return;
      close();
      void go(selectedItem.to);
    },
  });
  return (
    <Modal.Body>
      <div className="field">
        <label {...list.getLabelProps()}>Tag, location, nickname or page</label>
        <input
          {...list.getInputProps({ onChange: (e) => setText(e.currentTarget.value) })}
          autoFocus
          autoComplete="off"
        />
      </div>
      <ul {...list.getMenuProps()} className={`hist ${css.finder}`}>
        {rows.map((row, index) => (
          <li key={row.to} {...list.getItemProps({ item: row, index })}>
            {row.set ? <Found set={row.set} /> : row.word}
          </li>
        ))}
      </ul>
      {text.length > 1 && rows.length === 0 && <p className="mute">No match.</p>}
    </Modal.Body>
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
