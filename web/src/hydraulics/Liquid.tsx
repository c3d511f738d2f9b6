/** Which liquid, at which temperature, in the words of a sentence. */
import { Choose, Inline } from "../safety";
import { BY, LIQUIDS } from "./options";

interface Liquid {
  fluid?: string | null;
  glycol_by?: string | null;
}
interface Props<B> {
  body: B;
  say: (more: Partial<B>) => void;
}
export function LiquidWords<B extends Liquid>({ body, say }: Props<B>) {
  const said = { body, say };
  const glycol = body.fluid === "propylene" || body.fluid === "ethylene";
  return (
    <>
      <Choose name="fluid" label="Liquid" options={LIQUIDS} {...said} /> at <Inline name="temperature" />
      {glycol && (
        <>
          , <Inline name="glycol" />{" "}
          <Choose name="glycol_by" label="Percent by mass or by volume" options={BY} {...said} />
        </>
      )}
      {(body.fluid === "seawater" || body.fluid === "other") && (
        <>
          , <Inline name="density" />
        </>
      )}
    </>
  );
}
