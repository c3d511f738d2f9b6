/** A plot, with its library fetched when the first one is wanted; until then its room is kept. */
import type { ComponentProps } from "react";
import { Fetched, type Later } from "../../base";
import type { TrendDrawn } from "./TrendDrawn";
import css from "../logbook.module.scss";

type Props = ComponentProps<typeof TrendDrawn>;
export const PLOT: Later<Props> = () => import("./TrendDrawn").then((m) => m.TrendDrawn);

export const TrendPlot = (props: Props) => (
  <Fetched load={PLOT} with={props} quiet meanwhile={<div className={css.plotroom} />} />
);
