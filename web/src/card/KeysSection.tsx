/** A camera's keys: what is chosen of them and what can be done with all of it, what is keyed here, and recording. */
import "./keys.css";
import { Button, NumberInput } from "@mantine/core";
import type { CameraView } from "../api/generated";
import { KEY_SHAPES } from "../api/tables";
import {
  type ChosenKeys,
  among,
  choose,
  chooseAll,
  chooseAlso,
  copyChosen,
  deleteChosen,
  mirrorChosen,
  pasteKeys,
  reachOf,
  retimeChosen,
  shapeChosen,
} from "../state/chosenKeys";
import { KeyedHere } from "./KeyedHere";
import { BeyondTheKeys, StretchTools } from "./KeyTools";
import { TimeBend } from "./TimeBend";
import { edit } from "../state/edits";
import { toggleRecording } from "../state/recording";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { useSession, workedCamera } from "../state/session";

/** So many are listed around the playhead. */
const MOST_LISTED = 12;

export function KeysSection() {
  const camera = useSession((s) => workedCamera(s));
  const chosen = useSession((s) => s.chosenKeys);
  const copied = useSession((s) => s.copiedKeys);
  const recording = useSession((s) => s.recording);
  const frame = useCalmFrame();
  if (!camera) return null;
  const times = among(camera, chosen?.times ?? []);
  return (
    <section aria-label="Keys" className="keys">
      <h2 className="of-camera">
        {camera.name} <small>{camera.keys.length} keys</small>
      </h2>
      {!camera.keys.length && (
        <p className="why">
          No keys yet. Unlock the camera, frame it, press <kbd>K</kbd>; go to another frame, frame it again,
          press <kbd>K</kbd>.
        </p>
      )}
      {camera.locked && (
        <p className="why">The camera is locked; its keys can be read, not changed (L unlocks).</p>
      )}
      {camera.keys.length > 0 && !times.length && (
        <p className="why">
          Click a cross in the Sheet, drag a box around several, or take <kbd>Ctrl A</kbd> all.
        </p>
      )}
      <KeyList keys={camera.keys} chosen={times} frame={frame} />
      {chosen && times.length > 0 && <Chosen camera={camera} chosen={{ ...chosen, times }} />}
      {camera.keys.length > 1 && (
        <>
          <h3>Its time, over a stretch</h3>
          <TimeBend
            of={camera.name}
            disabled={camera.locked}
            bend={(stretch) => edit({ edit: "bend camera time", camera_id: camera.id, ...stretch })}
          />
        </>
      )}
      <BeyondTheKeys camera={camera} chosen={chosen} />
      <KeyedHere camera={camera} frame={frame} />
      <div className="actions">
        {!times.length && camera.keys.length > 0 && <Button onClick={chooseAll}>Choose all</Button>}
        {copied && (
          <>
            <Button disabled={camera.locked} onClick={() => pasteKeys()} title="Ctrl V">
              Paste here
            </Button>
            <Button
              disabled={camera.locked}
              onClick={() => pasteKeys({ clears: true })}
              title="What is keyed within these frames goes"
            >
              Instead
            </Button>
            <Button
              disabled={camera.locked}
              onClick={() => pasteKeys({ mirrors: true })}
              title="Run backwards"
            >
              Backwards
            </Button>
            <Button
              disabled={camera.locked}
              onClick={() => pasteKeys({ inPlace: true })}
              title="At the frames that they came from, for another camera (Ctrl Shift V)"
            >
              In place
            </Button>
          </>
        )}
        <Button
          variant={recording ? "filled" : "default"}
          onClick={toggleRecording}
          title="Alt K: every move of a camera sets keys"
        >
          {recording ? "End recording" : "Record moves"}
        </Button>
      </div>
    </section>
  );
}

/** The keys around the playhead, each reached and chosen by a click; with Ctrl one more. */
function KeyList({ keys, chosen, frame }: { keys: CameraView["keys"]; chosen: string[]; frame: number }) {
  const next = keys.findIndex((key) => key.frame >= frame);
  const from = Math.max(
    0,
    Math.min((next < 0 ? keys.length : next) - MOST_LISTED / 2, keys.length - MOST_LISTED),
  );
  const listed = keys.slice(from, from + MOST_LISTED);
  const unlisted = keys.length - listed.length;
  return (
    <div className="key-list">
      {listed.map((key) => (
        <button
          key={key.time}
          className="toggle"
          aria-pressed={chosen.includes(key.time)}
          title={key.shape}
          onClick={(event) => {
            if (event.ctrlKey) return chooseAlso(key.time, null);
            choose([key.time]);
            goTo(Math.round(key.frame));
          }}
        >
          <span className="mono">{key.time}</span>
        </button>
      ))}
      {unlisted > 0 && <span className="why">and {unlisted} more</span>}
    </div>
  );
}

function Chosen({ camera, chosen }: { camera: CameraView; chosen: ChosenKeys }) {
  const frame = useSession((s) => s.frame);
  const [first, last] = reachOf(camera, chosen);
  const times = new Set(chosen.times);
  const shapes = new Set(camera.keys.filter((k) => times.has(k.time)).map((k) => k.shape));
  const lasts = last - first;
  const stretch = (value: number) => {
    if (value > 0 && value !== lasts)
      retimeChosen(camera, chosen, { stretch: `${value}/${lasts}`, about: String(frame) });
  };
  const what = chosen.groups ? ` of ${chosen.groups.join(", ")}` : "";
  return (
    <>
      <h3>
        {chosen.times.length === 1
          ? `Key at ${chosen.times[0]}${what}`
          : `${chosen.times.length} keys${what}, ${+first.toFixed(2)} to ${+last.toFixed(2)}`}
      </h3>
      <div className="shapes" role="group" aria-label="Shape of the chosen keys">
        {KEY_SHAPES.map((shape) => (
          <button
            key={shape}
            className="toggle"
            disabled={camera.locked}
            aria-pressed={shapes.has(shape)}
            onClick={() => shapeChosen(shape)}
          >
            {shape}
          </button>
        ))}
      </div>
      {Number.isInteger(lasts) && lasts > 0 && (
        <NumberInput
          key={`${first} ${last} ${frame}`}
          label={`they last, stretched about frame ${frame}`}
          suffix=" frames"
          defaultValue={lasts}
          min={1}
          disabled={camera.locked}
          hideControls
          onBlur={(event) => stretch(Number.parseInt(event.currentTarget.value, 10))}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      )}
      {chosen.times.length > 1 && <StretchTools camera={camera} chosen={chosen} />}
      <div className="actions">
        <Button onClick={copyChosen} title="Ctrl C">
          Copy
        </Button>
        {lasts > 0 && (
          <Button disabled={camera.locked} onClick={mirrorChosen} title="Alt M">
            Backwards
          </Button>
        )}
        <Button disabled={camera.locked} onClick={deleteChosen} title="Delete">
          Delete
        </Button>
      </div>
    </>
  );
}
