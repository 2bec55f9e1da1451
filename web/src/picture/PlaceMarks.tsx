/** Where each character is in two pictures: a ring in the first, a filled one in the second, a line from the one to the other. */
import "./placeMarks.css";
import { labelWidth } from "./Label";

/** Of a name from the middle of its mark. */
const AWAY = 11;

type Place = [number, number] | null;

export interface Marked {
  id: string;
  name: string;
  /** In CSS pixels of the picture; null where it is not in it. */
  before: Place;
  after: Place;
}

interface PlaceMarksProps {
  of: Marked[];
  sides: "before" | "after" | "both";
  /** Up to where there is room for names. */
  right: number;
}

export function PlaceMarks({ of, sides, right }: PlaceMarksProps) {
  return of.map(({ id, name, before, after }) => (
    <g key={id} className="place-marks">
      {sides === "both" && before && after && (
        <path className="way" d={`M${before[0]} ${before[1]}L${after[0]} ${after[1]}`} />
      )}
      {before && (
        <circle
          className={sides === "after" ? "before faint" : "before"}
          cx={before[0]}
          cy={before[1]}
          r={8}
        />
      )}
      {sides !== "before" && after && (
        <>
          <circle className="after" cx={after[0]} cy={after[1]} r={6} />
          <NameBeside name={name} x={after[0]} y={after[1] + 4} right={right} />
        </>
      )}
    </g>
  ));
}

function NameBeside({ name, x, y, right }: { name: string; x: number; y: number; right: number }) {
  const toLeft = x + AWAY + labelWidth(name) > right;
  return (
    <text x={x + (toLeft ? -AWAY : AWAY)} y={y} textAnchor={toLeft ? "end" : "start"}>
      {name}
    </text>
  );
}
