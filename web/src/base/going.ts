/** One thing that is sent at once and never kept: whether it is under way, and what it was refused for. */
import { useState } from "react";

export interface Going {
  busy: boolean;
  error: unknown;
  /** Was it taken? */
  go: (does: () => Promise<unknown>) => Promise<boolean>;
}
export function useGoing(): Going {
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const go = async (does: () => Promise<unknown>) => {
    setError(null);
    setBusy(true);
    try {
      await does();
      return true;
    } catch (e) {
      setError(e);
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { busy, error, go };
}
