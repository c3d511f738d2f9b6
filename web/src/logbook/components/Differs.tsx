/** What a save has to tell whoever saw another verdict than the server gave. */
import { Link } from "react-router";
import type { Said } from "../saving";

export function Differs({ said }: { said: Partial<Said> | null | undefined }) {
  if (!said?.differs) return null;
  return (
    <p className="notice" role="status" data-testid="differs">
      Saved. Something was entered meanwhile, and the verdict differs from the one you saw:{" "}
      <Link to={`/records/${String(said.saved)}`}>open the record</Link>.
    </p>
  );
}
