/** Which part of a set is chosen: it stands in the address, so that it can be kept, sent and gone back from. */
import { useNavigate, useSearchParams } from "react-router";

export const pathOf = (setId: number, part: string) =>
  part ? `/sets/${setId}?part=${part}` : `/sets/${setId}`;

export function useChosenPart(set: { id: number; slots: string[] }): [string, (part: string) => void] {
  const go = useNavigate();
  const said = useSearchParams()[0].get("part") ?? "";
  const chosen = set.slots.includes(said) ? said : "";
  return [chosen, (part) => void go(pathOf(set.id, part === chosen ? "" : part))];
}
