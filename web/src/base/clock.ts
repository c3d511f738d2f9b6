/** This device's clock against the server's: measured once well, and again when it was set or slept. */

interface Measured {
  /** ms to be added to this device's time. */
  off: number;
  /** How long asking took: the measure is no better than that. */
  took: number;
  date: number;
  /** A clock that nobody sets, since the page was opened. */
  steady: number;
}
const POOR_MS = 1000;
const JUMP_MS = 1000;

export class DeviceClock {
  private held: Measured | null = null;
  constructor(
    private readonly date: () => number = Date.now,
    private readonly steady: () => number = () => performance.now(),
  ) {}

  /** An answer of the server with its time. True: what is measured has changed. */
  measure(iso: string, asked: number, heard: number): boolean {
    const took = heard - asked;
    const fresh = {
      off: Date.parse(iso) - (asked + heard) / 2,
      took,
      date: this.date(),
      steady: this.steady(),
    };
    // A clock drifts by less than a way there and back: only one that was set, or slept, is measured anew.
    if (this.held !== null && !this.jumped() && !(this.held.took > POOR_MS && took < this.held.took))
      return false;
    this.held = fresh;
    return true;
  }
  /** Did the day's clock go otherwise than the steady one since it was measured? */
  jumped(): boolean {
    return (
      this.held !== null &&
      Math.abs(this.date() - this.held.date - (this.steady() - this.held.steady)) > JUMP_MS
    );
  }
  get off(): number {
    return this.held?.off ?? 0;
  }
}
