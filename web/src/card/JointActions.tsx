/** From a joint to what can be done with it: by the camera that is worked on, and about what its arc shows. */
import { Button } from "@mantine/core";
import type { CharacterView, PieceView, Subject } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import { whyLocked, type LockGroup } from "../state/actions";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { amountOf } from "../state/readingText";
import { notify, session, useSession, workedCamera } from "../state/session";
import { framingOf, jointSubject } from "../state/subjects";
import type { Edit } from "../api/client";

interface Action {
  label: string;
  title: string;
  pushes: LockGroup;
  /** What it does with a camera and the joint on a frame. */
  edit: (camera_id: string, subject: Subject, frame: number) => Edit;
}

const targetsOf = (subject: Subject) => [
  { subjects: [subject], first: null, last: null, ease: "even" as const },
];
const carriedBy =
  (mount: string) =>
  (camera_id: string, subject: Subject, frame: number): Edit => ({
    edit: "carry camera",
    camera_id,
    frame,
    mount,
    subject,
    afresh: true,
  });
const ACTIONS: Action[] = [
  {
    label: "Aim at it",
    title: "Turn the camera towards it",
    pushes: "angles",
    edit: (camera_id, subject, frame) => ({
      edit: "aim camera",
      camera_id,
      frame,
      aim: { targets: targetsOf(subject), follows: "motion" },
    }),
  },
  {
    label: "Hold it in the frame",
    title: "Where it is in the Picture now",
    pushes: "angles",
    edit: (camera_id, subject, frame) => ({
      edit: "hold framing",
      camera_id,
      frame,
      framing: framingOf([subject]),
      keep_place: true,
    }),
  },
  {
    label: "Focus on it",
    title: "Keep it sharp",
    pushes: "lens",
    edit: (camera_id, subject, frame) => ({
      edit: "focus camera",
      camera_id,
      frame,
      focus: { targets: targetsOf(subject), follows: "motion" },
    }),
  },
  {
    label: "Be carried by it",
    title: "Have it carry the camera",
    pushes: "place",
    edit: carriedBy("carried"),
  },
  {
    label: "Go round it",
    title: "Put the camera on an orbit around it",
    pushes: "place",
    edit: carriedBy("orbit"),
  },
];

export function JointActions({ thing, joint }: { thing: CharacterView | PieceView; joint: string }) {
  const camera = useSession((s) => workedCamera(s));
  const readings = useSession((s) => s.scene!.readings);
  const own = readings.filter((r) => r.subject === joint && r.character_id === thing.id);
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
          The list mends it here, or drag the cross on the arc; what would have to change where it is animated
          stands under Corrections then.
        </p>
      )}
      {camera && (
        <>
          <h3>With {camera.name}</h3>
          <div className="actions">
            {ACTIONS.map(({ label, title, pushes, edit: doing }) => (
              <Button
                key={label}
                title={title}
                onClick={() => {
                  const why = whyLocked(camera, [pushes]);
                  if (why) notify(why, "warning");
                  else edit(doing(camera.id, jointSubject(thing.id, joint), session().frame));
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
