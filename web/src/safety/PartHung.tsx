/** What hangs on one part of a set. */
import { Tags } from "./components";
import { useSetSafety } from "./queries";

export function PartHung({ setId, part }: { setId: number; part: string }) {
  const tags = useSetSafety(setId).data?.tags.filter((t) => t.part === part) ?? [];
  return tags.length ? <Tags tags={tags} /> : null;
}
