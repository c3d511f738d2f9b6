/** How the scan was made, as a sentence: the load, the surface, what it was read with, what was seen. */
import { wordOf } from "../circuit/positions";
import { Choose, Inline } from "../../safety";
import type { Body } from "./sheet";

type Name = "steady" | "surface" | "rating" | "reader" | "seen";
const CHOICES: Record<Name, [string, [string, string][]]> = {
  steady: [
    "Load steady for 30 min",
    [
      ["", "choose"],
      ["yes", "steady for 30 min"],
      ["no", "not steady"],
    ],
  ],
  surface: [
    "Surface that was read",
    [
      ["", "choose"],
      ["tape", "tape"],
      ["paint", "paint"],
      ["bare", "bare metal"],
    ],
  ],
  rating: [
    "Lowest terminal rating",
    [
      ["", "choose"],
      ["60", "60 °C (140 °F)"],
      ["75", "75 °C (167 °F)"],
      ["90", "90 °C (194 °F)"],
    ],
  ],
  reader: [
    "Read with",
    [
      ["", "choose"],
      ["camera", "a thermal camera"],
      ["spot", "a spot thermometer"],
    ],
  ],
  seen: [
    "Seen at the joints",
    [
      ["", "choose"],
      ["nothing", "nothing"],
      ["charred", "charring"],
      ["climbing", "a joint that climbs"],
      ["smell", "a burnt smell"],
    ],
  ],
};
interface Props {
  body: Body;
  say: (more: Partial<Body>) => void;
  /** How this starter can stand. */
  positions: readonly string[];
}
export function How({ body, say, positions }: Props) {
  const ways: [string, string][] = positions.filter((p) => p !== "out").map((p) => [p, wordOf(p, positions)]);
  const word = (name: Name) => {
    const [label, options] = CHOICES[name];
    return <Choose name={name} label={label} options={options} body={body} say={say} />;
  };
  return (
    <p className="statesentence">
      {ways.length > 1 && (
        <>
          Contactors{" "}
          <Choose
            name="contactor"
            label="Contactors in"
            options={[["", "choose"], ...ways]}
            body={body}
            say={say}
          />
          .{" "}
        </>
      )}
      Load {word("steady")}, ambient <Inline name="ambient" />. Read on {word("surface")} with{" "}
      {word("reader")} from <Inline name="distance" />, distance to spot <Inline name="ratio" /> to 1, joint
      width <Inline name="width" />. Lowest rating {word("rating")}. Seen: {word("seen")}.
    </p>
  );
}
