/** Where does it stand? Its place and angles, the subject's figures, quick placements, keys, saved views. */
import { ActionIcon, Button, TextInput } from "@mantine/core";
import { IconEye, IconX } from "@tabler/icons-react";
import type { CameraView, SubjectsPart } from "../../api/generated";
import { levelView, placeViewFraming, placeViewFrom } from "../../picture/gestures";
import type { Pose } from "../../optics/pose";
import { placeAtRoam, putBack, setCameraKey } from "../../state/actions";
import { edit } from "../../state/edits";
import { SIDE_NAMES, roamFromHere, toggleRoam } from "../../state/looking";
import { chosenCharacter, part, session, setSession, useSession } from "../../state/session";
import { Figure, metres, px } from "../../widgets/Figure";
import { Fields, NumberField } from "../../widgets/NumberField";

const PLACE = ["x", "y", "z"] as const;
const ANGLES = ["pan", "tilt", "roll"] as const;

export function PlaceSection({ camera, pose, row }: { camera: CameraView; pose: Pose; row: number }) {
  const looking = useSession((s) => s.looking);
  const name = useSession((s) => chosenCharacter(s)?.name);
  const subjects = useSession((s) => part<SubjectsPart>(s, s.scene?.subjects));
  const place = (changed: Partial<Pose>) =>
    edit({
      edit: "place camera",
      camera_id: camera.id,
      pose: { ...pose, ...changed },
      frame: session().frame,
      turns: "counted",
    });
  const locked = (group: string) => camera.locks.includes(group as "place");
  const figures = subjects?.characters.find((c) => c.name === name);
  return (
    <>
      <Fields columns={3}>
        {PLACE.map((n) => (
          <NumberField
            key={n}
            label={n}
            value={pose[n]}
            unit="m"
            digits={3}
            disabled={locked("place")}
            onSet={(v) => place({ [n]: v })}
          />
        ))}
        {ANGLES.map((n) => (
          <NumberField
            key={n}
            label={n}
            value={pose[n]}
            unit="°"
            digits={2}
            disabled={locked("angles")}
            onSet={(v) => place({ [n]: v })}
          />
        ))}
      </Fields>
      {figures && (
        <div className="figures">
          <Figure label={`to ${name}’s face`}>{metres(figures.distance_m[row]!)}</Figure>
          <Figure label="above it">{metres(figures.above_m[row]!)}</Figure>
          <Figure label="round from its front">
            {Math.abs(figures.angle_deg[row]!).toFixed(0)}° {figures.angle_deg[row]! >= 0 ? "left" : "right"}
          </Figure>
          <Figure label="height in the frame">{px(figures.height_px[row], 0)}</Figure>
        </div>
      )}
      <div className="actions">
        <Button onClick={setCameraKey} disabled={camera.locked}>
          Set key <kbd>K</kbd>
        </Button>
        {(camera.unkeyed.length > 0 || (!camera.keys.length && camera.views.length > 0)) && (
          <Button onClick={putBack}>
            Put back <kbd>B</kbd>
          </Button>
        )}
        <Button onClick={toggleRoam} variant={looking === "roam" ? "filled" : "default"}>
          {looking === "roam" ? "Back" : "Roam"} <kbd>R</kbd>
        </Button>
        {looking === "roam" ? (
          <Button onClick={placeAtRoam}>
            Put it here <kbd>P</kbd>
          </Button>
        ) : (
          <Button onClick={roamFromHere} title="Leave the camera, go on roaming from its place">
            Roam from here
          </Button>
        )}
      </div>
      <p className="why">
        {camera.unkeyed.length
          ? "Moved and not keyed: it stands there on every frame until it is keyed or put back."
          : camera.keys.length
            ? keysInWords(camera.keys.map((key) => key.frame))
            : camera.mount.kind === "free"
              ? "No keys: it stands still."
              : `No keys of its own: it goes as its mount does (${camera.mount.kind}).`}
      </p>
      <div className="placements" role="group" aria-label="Quick placements">
        {SIDE_NAMES.map((side) => (
          <button key={side} className="toggle" onClick={() => placeViewFrom(side)}>
            {side}
          </button>
        ))}
        <button className="toggle" onClick={() => placeViewFraming("body")}>
          whole body
        </button>
        <button className="toggle" onClick={() => placeViewFraming("head")}>
          head
        </button>
        <button className="toggle" onClick={levelView} title="Take the roll out">
          level
        </button>
      </div>
      <SavedViews camera={camera} />
    </>
  );
}

function keysInWords(frames: number[]): string {
  if (frames.length === 1) return `1 key, on ${frames[0]}.`;
  return `${frames.length} keys from ${frames[0]} to ${frames.at(-1)}.`;
}

function SavedViews({ camera }: { camera: CameraView }) {
  const comparing = useSession((s) => s.comparing);
  const save = () =>
    edit({
      edit: "save view",
      camera_id: camera.id,
      view_id: crypto.randomUUID(),
      name: `View at ${session().frame}`,
      time: String(session().frame),
    });
  return (
    <>
      <h4>
        Saved views <span className="spacer" />
        <button className="toggle" onClick={save} title="Shift V">
          save this one
        </button>
      </h4>
      {camera.views.map((view, index) => (
        <div key={view.id} className="saved-view">
          <TextInput
            key={view.name}
            aria-label={`Name of saved view ${index + 1}`}
            defaultValue={view.name}
            size="xs"
            variant="unstyled"
            style={{ flex: 1 }}
            onBlur={(event) => {
              const name = event.currentTarget.value.trim();
              if (name && name !== view.name)
                edit({ edit: "rename view", camera_id: camera.id, view_id: view.id, name });
            }}
            onKeyDown={(event) => {
              if (event.key === "Enter") event.currentTarget.blur();
            }}
          />
          <ActionIcon
            variant={comparing?.views[0] === view.id ? "filled" : "subtle"}
            color="gray"
            aria-label={`Look at ${view.name}`}
            title="Look at it without moving the camera; again flicks back"
            onClick={() => flick(camera, view.id)}
          >
            <IconEye size={15} />
          </ActionIcon>
          <button
            className="toggle"
            onClick={() => edit({ edit: "recall view", camera_id: camera.id, view_id: view.id })}
          >
            recall
          </button>
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={`Delete ${view.name}`}
            onClick={() => edit({ edit: "delete view", camera_id: camera.id, view_id: view.id })}
          >
            <IconX size={14} />
          </ActionIcon>
        </div>
      ))}
      {camera.views.length > 1 && (
        <button
          className="toggle"
          aria-pressed={comparing?.beside ?? false}
          onClick={() => compareBeside(camera)}
          title="Two saved views side by side; X flicks between them"
        >
          compare two side by side
        </button>
      )}
      {!camera.views.length && (
        <p className="why">
          None yet. A saved view keeps the picture: place, angles, lens, mount, aim, focus and framing.
        </p>
      )}
    </>
  );
}

function flick(camera: CameraView, viewId: string): void {
  const { comparing } = session();
  if (comparing?.cameraId === camera.id && comparing.views[0] === viewId) {
    setSession({ comparing: null });
    return;
  }
  const other =
    comparing?.cameraId === camera.id ? comparing.views[0] : camera.views.find((v) => v.id !== viewId)?.id;
  setSession({
    comparing: { cameraId: camera.id, views: [viewId, other ?? viewId], beside: comparing?.beside ?? false },
  });
}

function compareBeside(camera: CameraView): void {
  const { comparing } = session();
  if (comparing?.beside) setSession({ comparing: null });
  else {
    const [one, other] = camera.views.slice(-2);
    if (!one || !other) return;
    const views: [string, string] = comparing?.views ?? [one.id, other.id];
    setSession({ comparing: { cameraId: camera.id, views, beside: true } });
  }
}
