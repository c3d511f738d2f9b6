/** What an answer said while it still counted, and of which day that is. */
import { day, useMe, type Schemas } from "../../base";
import css from "./set.module.scss";

export function WasSaid({ answer, zone }: { answer: Schemas["AnswerOut"] | undefined; zone: string }) {
  const { locale } = useMe();
  if (!answer?.was) return null;
  return (
    <p className={css.quietline}>
      On {day(answer.taken_at, zone, locale)}: {answer.was}
    </p>
  );
}
