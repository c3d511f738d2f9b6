/** When is it back? For whoever called: state, owner and expected time, and nothing else. */
import { useParams } from "react-router";
import { day, Ready, useGet, type Schemas } from "../../base";
import css from "./pages.module.scss";

/** By the code on a set's label: no sign-in. */
export function BackByLabel() {
  const token = useParams().token ?? "";
  const told = useGet("/api/v1/back/{token}", { token });
  return (
    <div className={`paper ${css.back ?? ""}`}>
      <Ready query={told} what="Looking it up">
        {(b) => <Back b={b} />}
      </Ready>
    </div>
  );
}
export function Back({ b }: { b: Schemas["BackOut"] }) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <article data-back={b.tag}>
      <h1>
        <span className="mono">{b.tag}</span> {b.name}
      </h1>
      <p className={css.state}>{b.state}</p>
      {b.expected && (
        <p>
          Expected back: <strong>{day(b.expected, zone, navigator.language)}</strong>
        </p>
      )}
      {b.left && !b.waits && <p>About {b.left} of work left.</p>}
      {b.owner && (
        <p>
          Ask <strong>{b.owner}</strong>.
        </p>
      )}
    </article>
  );
}
