import { useEffect, useState } from "react";

/** Is the page phone-wide? */
export function useNarrow(most = 640): boolean {
  const query = `(max-width: ${most}px)`;
  const [narrow, setNarrow] = useState(() => matchMedia(query).matches);
  useEffect(() => {
    const media = matchMedia(query);
    const changed = () => setNarrow(media.matches);
    media.addEventListener("change", changed);
    return () => media.removeEventListener("change", changed);
  }, [query]);
  return narrow;
}
