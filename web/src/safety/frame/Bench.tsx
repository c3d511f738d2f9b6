/** The sheet a drawing stands on: whose it is, its cautions, the drawing, and the keypad under the thumb. */
import type { ReactNode } from "react";
import { useMe } from "../../base";
import { ReadWith } from "../../instruments";
import { Cautions } from "./Cautions";
import s from "./frame.module.scss";
import { Heading } from "./Heading";
import { KeypadBelow } from "./KeypadBelow";
import { ToolsGiven, type Tools } from "./tools";
import css from "../safety.module.scss";

interface Props {
  tools: Tools;
  className?: string;
  /** Beside the tag, in small; and at the other end of the line. */
  more?: ReactNode;
  aside?: ReactNode;
  /** Said before anything is read: what hangs on the set, whose sheet this is. */
  before?: ReactNode;
  children: ReactNode;
}
export function Bench({ tools, className = "", more, aside, before, children }: Props) {
  const { answer, given, held, narrow } = tools;
  const me = useMe();
  const docked = narrow && held !== null;
  return (
    <ToolsGiven value={tools}>
      <div className={docked ? `${css.haskeypad} ${className}` : className}>
        <div className={s.head}>
          <Heading given={given} more={narrow ? null : more} />
          {aside}
        </div>
        {given.set.may === "viewer" && given.mode === "new" && (
          <p id="view-only" className="notice">
            View only. {tools.tries && "You can try figures here. "}Saving needs technician rights.
          </p>
        )}
        {before}
        {given.bench.read_with.length > 0 && (
          <ReadWith
            site={given.set.site_id}
            reads={given.bench.read_with}
            named={tools.named}
            may={tools.writes}
          />
        )}
        {answer && answer.cautions.length > 0 && (
          <Cautions
            sheet={`${me.username}:${given.set.id}:${given.bench.name}:${tools.sheet}`}
            lines={answer.cautions}
          />
        )}
        {children}
        {docked && <KeypadBelow name={held} />}
      </div>
    </ToolsGiven>
  );
}
