/** From a joint to what can be done with it: by the camera that is worked on, and about what its arc shows. */
import { Button } from "@mantine/core";
import type { CharacterView } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import { whyLocked, type LockGroup } from "../state/actions";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { amountOf } from "../state/readingText";
import { notify, session, useSession, workedCamera } from "../state/session";
import { framingOf, jointSubject } from "../state/subjects";
import type { Edit } from "../api/client";

const ACTIONS = [
  { label: "Aim at it", title: "Turn the camera towards it", pushes: "angles" },
  { label: "Hold it in the frame", title: "Where it is in the Picture now", pushes: "angles" },
  { label: "Focus on it", title: "Keep it sharp", pushes: "lens" },
  { label: "Be carried by it", title: "Have it carry the camera", pushes: "place" },
  { label: "Go round it", title: "Put the camera on an orbit around it", pushes: "place" },
] as const satisfies { label: string; title: string; pushes: LockGroup }[];

export function JointActions({ character, joint }: { character: CharacterView; joint: string }) {
  const camera = useSession((s) => workedCamera(s));
  const readings = useSession((s) => s.scene!.readings);
  const own = readings.filter((r) => r.subject === joint && r.character_id === character.id);
  return (
    <>
      {own.length > 0 && <h3>What it shows</h3>}
      {own.map((reading, index) => (
        <button key={index} className="toggle reading-link" onClick={() => goTo(reading.first)}>
          {READING_TITLES[reading.kind]} {amountOf(reading)} · {reading.first}
        </button>
      ))}
      {own.some((r) => !r.remark) && (
        <p className="why">
          The pose of that frame has to move by so much where it is animated; freeze the arc (I) to see which
          way.
        </p>
      )}
      {camera && (
        <>
          <h3>With {camera.name}</h3>
          <div className="actions">
            {ACTIONS.map(({ label, title, pushes }) => (
              <Button
                key={label}
                title={title}
                onClick={() => {
                  const why = whyLocked(camera, [pushes]);
                  if (why) notify(why, "warning");
                  else edit(doing(label, camera.id, character.id, joint));
                }}
              >
                {label}
              </Button>
            ))}
          </div>
        </>
      )}
    </>
  );
}

function doing(
  label: (typeof ACTIONS)[number]["label"],
  camera_id: string,
  owner: string,
  joint: string,
): Edit {
  const { frame } = session();
  const subject = jointSubject(owner, joint);
  const targets = [{ subjects: [subject], first: null, last: null, ease: "even" as const }];
  if (label === "Aim at it")
    return { edit: "aim camera", camera_id, frame, aim: { targets, follows: "motion" } };
  if (label === "Focus on it")
    return { edit: "focus camera", camera_id, frame, focus: { targets, follows: "motion" } };
  if (label === "Be carried by it")
    return { edit: "carry camera", camera_id, frame, mount: "carried", subject, afresh: true };
  if (label === "Go round it")
    return { edit: "carry camera", camera_id, frame, mount: "orbit", subject, afresh: true };
  return { edit: "hold framing", camera_id, frame, framing: framingOf([subject]), keep_place: true };
}
