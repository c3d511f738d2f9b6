/** What a drive is set to: read from it, from a file or by hand; each setting on its track beside what it ought to be. */
import { useCallback, useMemo, useState } from "react";
import { Bench, NamedFigure, RecordEnd, useBench, useOneEntry, Verdicts, type Given } from "../../safety";
import { Choose, Tick } from "../../safety";
import { Reading } from "./Reading";
import { Settings } from "./Settings";
import { put, settingsOf, SHOWN, stated, taken, type Body, type Shown, type View } from "./rows";
import css from "./drawing.module.scss";

const FIGURES = ["least_hz", "pipe", "cable", "fuse"];
const EMPTY: View = { groups: [], families: [], read: 0, moved: 0, wrong: 0, before_at: "" };
const YES = [
  ["", "choose"],
  ["yes", "yes"],
  ["no", "no"],
] as const;
const PLACES = [
  ["", "choose"],
  ["drive", "the drive"],
  ["keypad", "the keypad"],
  ["card", "a card"],
] as const;
const CHANGES = [
  ["", "nothing"],
  ["keypad", "the keypad"],
  ["battery", "its battery"],
  ["drive", "the drive"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"drive_sheet">(given, {
    figures: FIGURES,
    kept: ["family", "restart_allowed", "live_in", ...FIGURES],
    also: (b: Body) => Boolean(b.rows?.some((r) => r.found || r.left)),
  });
  const tools = useBench<View>(given, { ...sheet.own, order: FIGURES });
  const said = { body: sheet.body, say: sheet.change };
  const view = tools.answer?.view ?? EMPTY;
  const [shown, setShown] = useState<Shown>("all");
  const before = given.case.context.last?.body as Body | undefined;
  const carried = useMemo(() => (given.mode === "new" ? stated(before?.rows) : []), [given.mode, before]);
  const rows = sheet.body.rows ?? carried;
  const say = (id: string, word: Parameters<typeof put>[2], text: string) =>
    sheet.change({ rows: put(rows, id, word, text) });
  const { change } = sheet;
  const take = useCallback(
    (settings: Record<string, string>, from: "network" | "file", family: string) =>
      change({ rows: taken(rows, settings), read_by: from, ...(family ? { family } : {}) }),
    [change, rows],
  );
  const families = [["", "not known"] as const, ...view.families.map((f) => [f.id, f.title] as const)];
  const count = { all: view.read, wrong: view.wrong, moved: view.moved, unread: 0 };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        The drive is of <Choose name="family" label="Family of the drive" options={families} {...said} />; its
        settings are kept in <Choose name="live_in" label="Settings are kept in" options={PLACES} {...said} />
        . About to be changed:{" "}
        <Choose name="changing" label="About to be changed" options={CHANGES} {...said} />. May it start by
        itself after a power loss:{" "}
        <Choose name="restart_allowed" label="May it start by itself" options={YES} {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          <Reading take={take} settings={settingsOf(rows)} />
          <div className={css.row}>
            <NamedFigure name="least_hz" label="lowest frequency that lifts the head" />
            <NamedFigure name="pipe" label="length of the pipe" />
            <NamedFigure name="cable" label="motor cable" />
            <NamedFigure name="fuse" label="fuse in front of it" />
          </div>
          <div className={css.shown} role="group" aria-label="Settings shown">
            {SHOWN.map((w) => (
              <button
                key={w}
                type="button"
                className="btn-line"
                aria-pressed={shown === w}
                onClick={() => setShown(w)}
              >
                {w === "unread" ? "not read" : w}
                {w !== "unread" && count[w] > 0 ? ` ${String(count[w])}` : ""}
              </button>
            ))}
          </div>
          {view.groups.map((g) => (
            <Settings key={g.id} group={g} shown={shown} rows={rows} say={say} />
          ))}
        </div>
        <div>
          <Verdicts />
          <p className={css.ticks}>
            <Tick name="loss_proved" label="Loss of reference proved by pulling its wire" {...said} />
            <Tick name="saved" label="Settings saved outside the drive" {...said} />
          </p>
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
