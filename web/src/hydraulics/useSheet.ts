/** A sheet of this room: one entry, some of it in rows. */
import type { BenchName, EntryBody, Entered } from "../base";
import { useBench, useOneEntry, type Given, type Own } from "../safety";
import { cellOf, changedRow, figureIn, rowRules, type Row } from "./rows";

interface Wanted {
  figures: readonly string[];
  kept: readonly string[];
  also?: (body: Row) => boolean;
  /** Which lists of rows it has, and the figures of a row. */
  lists?: Record<string, readonly string[]>;
  /** The figures in the order of the hand, rows among them. */
  order?: readonly string[];
}
/** N: the bench; V: what of its answer is drawn. */
export function useSheet<N extends BenchName, V>(given: Given, { lists = {}, order, ...wanted }: Wanted) {
  const sheet = useOneEntry<N>(given, wanted);
  const body = sheet.body as EntryBody<N> & object;
  const say = sheet.change as (more: Row) => void;
  const row = (list: string, at: number, more: Row) => say({ [list]: changedRow(body, list, at, more) });
  const tools = useBench<V>(
    { ...given, rules: rowRules(given.rules, lists, body) },
    {
      ...(sheet.own as unknown as Own<V>),
      order: order ?? wanted.figures,
      entered: (name) => (cellOf(name) ? figureIn(body, name) : sheet.own.entered(name)),
      put: (name: string, next: Entered | null) => {
        const cell = cellOf(name);
        if (cell) row(cell[0], cell[1], { [cell[2]]: next });
        else sheet.own.put(name, next);
      },
    },
  );
  return { tools, body, say: sheet.change, row, view: tools.answer?.view ?? null };
}
