/** On a phone, under the thumb: Plant, find, a call, the sheet that is under way, and the rest. */
import { useRef } from "react";
import { Link, NavLink } from "react-router";
import type { Place } from "./base";
import type { Sheet } from "./underway";
import css from "./app.module.scss";

export function BottomBar({
  find,
  places,
  underway,
}: {
  find: () => void;
  places: Place[];
  underway: Sheet | null;
}) {
  const more = useRef<HTMLDetailsElement>(null);
  const close = () => more.current?.removeAttribute("open");
  return (
    <nav className={css.bottombar} aria-label="Bottom menu">
      <NavLink to="/" end>
        Plant
      </NavLink>
      <button onClick={find}>Find</button>
      {underway ? (
        <Link className={css.underway} to={underway.path}>
          {underway.title}
          <span className="mono">{underway.tag}</span>
        </Link>
      ) : (
        <Link to="/call">New call</Link>
      )}
      <details ref={more}>
        <summary>More</summary>
        <div className={css.morebox} onClick={close}>
          {underway && <Link to="/call">New call</Link>}
          <Link to="/hand-over">Shift handover</Link>
          {places
            .filter((p) => p.to !== "/")
            .map((p) => (
              <Link key={p.to} to={p.to}>
                {p.word}
              </Link>
            ))}
        </div>
      </details>
    </nav>
  );
}
