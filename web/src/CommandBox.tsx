/** A set by three letters of its tag, place or nickname; a page by its name. */
import { useState } from "react";
import Modal from "react-bootstrap/Modal";
import { useNavigate } from "react-router";
import { benchesOf, benchPath, useBenches, useGet, VerdictShape } from "./base";
import { usePlant } from "./logbook";
import { chosenSite, findSets, useSites } from "./plant";

const PAGES = [
  ["Plant", "/"],
  ["Call", "/call"],
  ["Hand over", "/hand-over"],
  ["Register", "/register"],
  ["Rules", "/rules"],
] as const;

interface Props {
  close: () => void;
  /** The set that is looked at: what can be begun on it is found, too. */
  setId: number | null;
}
export function CommandBox({ show, ...props }: Props & { show: boolean }) {
  return (
    <Modal show={show} onHide={props.close} aria-label="Find">
      <Finder {...props} />
    </Modal>
  );
}
function Finder({ close, setId }: Props) {
  const site = chosenSite(useSites().data);
  const plant = usePlant(site?.id ?? null);
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const go = useNavigate();
  const benches = useBenches().data;
  const here = useGet("/api/v1/sets/{set_id}", setId === null ? null : { set_id: setId }).data;
  const sets = findSets(plant.data?.services.flatMap((s) => s.sets) ?? [], text).slice(0, 9);
  const begins = (w: string) => text !== "" && w.toLowerCase().startsWith(text.toLowerCase());
  const onSet = here && here.may !== "viewer" ? benchesOf(benches, here) : [];
  const pages = [
    ...onSet
      .filter((b) => begins(b.offer))
      .map((b) => [`${b.offer}, ${here?.tag}`, benchPath(here?.id ?? 0, b.name)]),
    ...PAGES.filter(([w]) => begins(w)),
  ] as [string, string][];
  const rows = [
    ...sets.map((s) => ({ key: s.tag, to: `/sets/${s.id}`, set: s })),
    ...pages.map(([w, to]) => ({ key: w, to, set: null })),
  ];
  const open = (to: string | undefined) => {
    if (!to) return;
    close();
    void go(to);
  };
  return (
    <Modal.Body>
      <div className="field">
        <label htmlFor="find">Tag, place, nickname or page</label>
        <input
          id="find"
          autoFocus
          autoComplete="off"
          role="combobox"
          aria-expanded={rows.length > 0}
          aria-controls="found"
          aria-activedescendant={rows[at] ? `found-${at}` : undefined}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={(e) => {
            if (e.key === "ArrowDown") setAt(Math.min(at + 1, rows.length - 1));
            else if (e.key === "ArrowUp") setAt(Math.max(at - 1, 0));
            else if (e.key === "Enter") open(rows[at]?.to);
            else return;
            e.preventDefault();
          }}
        />
      </div>
      <ul id="found" role="listbox" className="hist">
        {rows.map((r, i) => (
          <li
            key={r.key}
            id={`found-${i}`}
            role="option"
            aria-selected={i === at}
            style={{
              cursor: "pointer",
              background: i === at ? "var(--raised)" : undefined,
              padding: "8px 6px",
              minHeight: 44,
            }}
            onClick={() => open(r.to)}
          >
            {r.set ? (
              <>
                <VerdictShape verdict={r.set.verdict} /> <span className="mono">{r.set.tag}</span>{" "}
                {r.set.name}{" "}
                <span className="mute">
                  {[r.set.place, r.set.nickname && `“${r.set.nickname}”`].filter(Boolean).join(", ")}
                </span>
              </>
            ) : (
              r.key
            )}
          </li>
        ))}
      </ul>
      {text.length > 1 && rows.length === 0 && <p className="mute">Nothing here goes by that.</p>}
    </Modal.Body>
  );
}
