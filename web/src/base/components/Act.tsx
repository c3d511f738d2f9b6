/** A button. While it cannot be pressed it says what it waits for: there is no other way to disable one. */
import { useId, type ComponentProps } from "react";
import small from "../small.module.scss";

type Props = Omit<ComponentProps<"button">, "disabled"> & {
  /** What it waits for, as a sentence; nothing: it can be pressed. */
  waits: string | false | null | undefined;
  /** The id of a line that says it already: it is not said twice. */
  saidBy?: string;
};
/** The word while an answer is on its way. */
export const SENDING = "Sending…";

export function Act({ waits, saidBy, className = "btn-line", children, ...rest }: Props) {
  const own = useId();
  const reason = saidBy ?? own;
  return (
    <>
      <button
        {...rest}
        className={className}
        disabled={Boolean(waits)}
        aria-describedby={waits ? reason : undefined}
      >
        {children}
      </button>
      {waits && !saidBy && (
        <span id={own} className={`mute ${small.whatItWaitsFor}`} data-waits>
          {waits}
        </span>
      )}
    </>
  );
}
