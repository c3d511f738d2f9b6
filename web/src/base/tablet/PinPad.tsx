/** Digits for gloves: the field that they go into can be typed in as well. */
import { useId, useRef, useState, type FormEvent } from "react";
import { Act, SENDING } from "../components/Act";
import { Complaint } from "../components/States";
import { useGoing } from "../going";
import css from "./tablet.module.scss";

interface Props {
  /** Whose PIN it is, for who reads by ear. */
  label: string;
  /** What the key at the end does. */
  does: string;
  /** Resolves when it was right. */
  go: (pin: string) => Promise<void>;
}
const LONGEST = 8;
const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];

export function PinPad({ label, does, go }: Props) {
  const [pin, setPin] = useState("");
  const { busy, error, go: send } = useGoing();
  const field = useRef<HTMLInputElement>(null);
  const lacking = useId();
  const waits = busy ? SENDING : pin.length < 4 && "4 digits or more.";
  const put = (next: string) => setPin(next.replace(/\D/g, "").slice(0, LONGEST));
  const key = (text: string, run: () => void, name = text) => (
    <button
      key={text}
      type="button"
      aria-label={name}
      onClick={() => {
        run();
        field.current?.focus();
      }}
    >
      {text}
    </button>
  );
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    if (await send(() => go(pin))) return;
    setPin("");
    field.current?.focus();
  };
  return (
    <form className={css.pad} onSubmit={(e) => void submit(e)}>
      <input
        ref={field}
        type="password"
        inputMode="none"
        autoComplete="off"
        aria-label={label}
        className={css.pin}
        value={pin}
        onChange={(e) => put(e.target.value)}
        autoFocus
      />
      <div className={css.keys} role="group" aria-label="Digits">
        {KEYS.map((k) => key(k, () => put(pin + k)))}
        {key("⌫", () => put(pin.slice(0, -1)), "backspace")}
        {key("0", () => put(`${pin}0`))}
        <Act className={css.go} waits={waits} saidBy={lacking}>
          {does}
        </Act>
      </div>
      <span id={lacking} className="mute">
        {waits || "Enter does the same."}
      </span>
      <Complaint error={error} />
    </form>
  );
}
