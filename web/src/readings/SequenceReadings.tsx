/** The readings of all scenes of the sequence in one list; a click goes to the scene and the frame. */
import { useEffect, useState } from "react";
import { readSequence } from "../api/client";
import type { SequenceReadings as Found } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import { amountOf, figuresOf } from "../state/readingText";
import { goToScene } from "../state/sequence";
import { useSession } from "../state/session";

export function SequenceReadings() {
  const id = useSession((s) => s.sequence!.id);
  const revision = useSession((s) => `${s.scene!.id} ${s.scene!.revision}`);
  const [found, setFound] = useState<Found | string | null>(null);
  useEffect(() => {
    let wanted = true;
    readSequence(id)
      .then((answer) => wanted && setFound(answer))
      .catch((error: Error) => wanted && setFound(error.message));
    return () => {
      wanted = false;
    };
  }, [id, revision]);
  if (found === null) return <p className="why">All scenes are being judged …</p>;
  if (typeof found === "string") return <p role="alert">{found}</p>;
  return (
    <ul className="readings" data-testid="sequence-readings">
      {found.failed.map((name) => (
        <li key={name}>“{name}” could not be judged.</li>
      ))}
      {found.readings.map(({ scene_id, scene_name, timecode, reading }, index) => (
        <li key={index} className={reading.remark ? "remark" : undefined}>
          <button className="what" onClick={() => void goToScene(scene_id, reading.first)}>
            <b>{READING_TITLES[reading.kind]}</b>
            <span className="soft">
              {[scene_name, timecode, reading.subject, ...figuresOf(reading)].filter(Boolean).join(" · ")}
            </span>
          </button>
          <span className="mono size">{amountOf(reading)}</span>
        </li>
      ))}
      {!found.readings.length && <li className="empty">Nothing is out of bounds in any of its scenes.</li>}
    </ul>
  );
}
