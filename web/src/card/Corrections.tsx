/** Corrections of a character: a joint pushed where it should be in the Picture, and what its source would have to change. */
import "./corrections.css";
import { IconX } from "@tabler/icons-react";
import { useState } from "react";
import type { Edit } from "../api/client";
import type { CharacterView, CorrectionsPart } from "../api/generated";
import { MOST_CORRECTION_FADES, correctingCamera } from "../state/correcting";
import { setLooks } from "../state/judgingLooks";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { part, session, useSession } from "../state/session";
import { Fields, NumberField } from "../widgets/NumberField";

type Told = CorrectionsPart["corrections"][number];
type Way = [number, number, number];

export function Corrections({ character, joint }: { character: CharacterView; joint: string | null }) {
  const told = useSession((s) => part<CorrectionsPart>(s, character.corrections));
  const [open, setOpen] = useState<number | null>(null);
  const list = told?.corrections ?? [];
  if (!joint && !list.length) return null;
  return (
    <>
      <h3>Corrections</h3>
      {joint && <Push thingId={character.id} joint={joint} />}
      {list.map((one, place) => (
        <div key={place} className="correction" data-testid="correction">
          <div className="saved-view">
            <button
              className="toggle"
              aria-expanded={open === place}
              title="What would have to change at the source"
              onClick={() => {
                setOpen(open === place ? null : place);
                if (one.frame !== null) goTo(one.frame);
              }}
            >
              {one.frame ?? "unseen"}
            </button>
            <b style={{ flex: 1 }}>{one.joint}</b>
            <span className="mono">{one.rests ? "rests" : `${millimetres(one.shift_m as Way)} mm`}</span>
            <button
              className="toggle"
              aria-label={`Take the correction of ${one.joint} away`}
              title="Take it away"
              onClick={() => edit({ edit: "drop correction", character_id: character.id, place })}
            >
              <IconX size={14} aria-hidden />
            </button>
          </div>
          {open === place && <AtSource told={one} />}
        </div>
      ))}
      {list.some(({ rests }) => rests) && (
        <p className="why">What rests is not shown: the file has changed on its frames since it was made.</p>
      )}
    </>
  );
}

/** By how much the joint is to be farther right and down on this frame: by number, as by the cross on its arc. */
function Push({ thingId, joint }: { thingId: string; joint: string }) {
  const fades = useSession((s) => s.looks.correctionFades);
  const camera = useSession(correctingCamera);
  if (camera === undefined) return null;
  const push = (x: number, y: number): Edit => ({
    edit: "correct joint",
    thing_id: thingId,
    joint,
    on_frame: session().frame,
    camera_id: camera,
    shift_px: [x, y],
    fades,
  });
  return (
    <>
      <p className="why">Drag the cross on its arc, or push it on this frame:</p>
      <Fields columns={3}>
        <NumberField
          label="right"
          value={0}
          unit="px"
          digits={1}
          title="Positive to the right, in pixels of the delivery frame"
          onSet={(x) => x && edit(push(x, 0))}
        />
        <NumberField
          label="down"
          value={0}
          unit="px"
          digits={1}
          title="Positive downwards, in pixels of the delivery frame"
          onSet={(y) => y && edit(push(0, y))}
        />
        <NumberField
          label="blended over"
          value={fades}
          unit="fr"
          digits={0}
          min={0}
          max={MOST_CORRECTION_FADES}
          title="Frames before and after it that go along, less and less"
          onSet={(value) => setLooks({ correctionFades: Math.round(value) })}
        />
      </Fields>
    </>
  );
}

/** As whoever animates it needs it: each joint in the axes of what it hangs on, and the whole in the world. */
function AtSource({ told }: { told: Told }) {
  const span = told.first === told.last ? "on that frame alone" : `seen from ${told.first} to ${told.last}`;
  return (
    <div className="at-source" data-testid="at-source">
      <p className="why">
        To change at the source on {told.frame ?? "a frame outside the scene"}, {span}:
      </p>
      <ul>
        {told.changes.flatMap((change) => [
          ...(length(change.turn_deg as Way) >= 0.005
            ? [
                <li key={`${change.joint} turn`}>
                  <b>{change.joint}</b> turned {length(change.turn_deg as Way).toFixed(2)}°{" "}
                  <span className="mono">{axes(change.turn_deg as Way, 1, 2)}</span>
                </li>,
              ]
            : []),
          ...(length(change.shift_m as Way) >= 5e-5
            ? [
                <li key={`${change.joint} shift`}>
                  <b>{change.joint}</b> moved {millimetres(change.shift_m as Way)} mm{" "}
                  <span className="mono">{axes(change.shift_m as Way, 1000, 1)}</span>
                </li>,
              ]
            : []),
        ])}
      </ul>
      <p className="why">
        In the axes of what each hangs on. In the world {told.joint} moves{" "}
        <span className="mono">{axes(told.shift_m as Way, 1000, 1)} mm</span>.
      </p>
    </div>
  );
}

const length = (way: Way) => Math.hypot(...way);
const millimetres = (way: Way) => (1000 * length(way)).toFixed(1);
const axes = (way: Way, times: number, digits: number) =>
  ["x", "y", "z"].map((axis, at) => `${axis} ${signed(way[at]! * times, digits)}`).join("  ");
const signed = (value: number, digits: number) =>
  value
    .toFixed(digits)
    .replace(/^-(?=[0.]*$)/, "")
    .replace("-", "−");
