/** A place that a drawing works out from its figures: the one thing that no class can say. */
import type { ComponentPropsWithoutRef } from "react";

type Edge = "left" | "top" | "width" | "height" | "paddingTop" | "paddingLeft";
interface Props extends Omit<ComponentPropsWithoutRef<"div">, "style"> {
  /** In px, or as parts of what it stands on ("40%"). */
  at: Partial<Record<Edge, number | string>>;
}
export const Spot = ({ at, ...rest }: Props) => <div {...rest} style={at} />;
