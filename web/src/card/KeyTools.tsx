/** What makes a stretch of chosen keys better as a whole, and what comes beyond the keys. */
import "./keys.css";
import { Button, Select } from "@mantine/core";
import { useState } from "react";
import type { CameraView, ChannelsPart, GoOnBeyondKeys } from "../api/generated";
import { BEYOND_KEYS } from "../api/tables";
import { type ChosenKeys, choose, evenedOf, fewerOf, smoothedOf } from "../state/chosenKeys";
import { edit } from "../state/edits";
import { part, useSession } from "../state/session";
import { NumberField } from "../widgets/NumberField";
import { useHeldEdit } from "../widgets/heldEdit";

const USUAL_ERROR_PX = 1;
const GREATEST_STRENGTH = 24;
const BEYOND_TITLES: Record<(typeof BEYOND_KEYS)[number], string> = {
  hold: "holds",
  cycle: "again and again",
  drift: "again, from where it came to",
};

/** Only for a stretch: several keys. */
export function StretchTools({ camera, chosen }: { camera: CameraView; chosen: ChosenKeys }) {
  const [errorPx, setErrorPx] = useState(USUAL_ERROR_PX);
  const off = camera.locked;
  // Fewer or other keys are left: none of them is the chosen one any more.
  const change = (made: Parameters<typeof edit>[0]) => {
    edit(made);
    choose([]);
  };
  return (
    <div className="stretch-tools">
      <div className="line">
        <NumberField
          label="within"
          value={errorPx}
          unit="px"
          digits={2}
          step={0.25}
          min={0.01}
          max={200}
          disabled={off}
          title="So far anything in the picture may be beside where it is"
          onSet={setErrorPx}
        />
        <Button
          disabled={off}
          onClick={() => change(fewerOf(camera, chosen, errorPx))}
          title="As few keys as keep the picture within so many pixels"
        >
          Fewer keys
        </Button>
        <Button
          disabled={off}
          onClick={() => change(evenedOf(camera, chosen))}
          title="Along the same way at one speed, from the first chosen key to the last"
        >
          Even speed
        </Button>
      </div>
      <Smooth camera={camera} chosen={chosen} />
    </div>
  );
}

/** How strongly the chosen keys are evened out: seen while the hand holds it. */
function Smooth({ camera, chosen }: { camera: CameraView; chosen: ChosenKeys }) {
  const hold = useHeldEdit();
  const [frames, setFrames] = useState(0);
  return (
    <label className="smooth" title="The first and the last of them stay">
      smooth
      <input
        type="range"
        min={0}
        max={GREATEST_STRENGTH}
        step={0.5}
        value={frames}
        disabled={camera.locked || chosen.times.length < 3}
        onPointerDown={() => hold.take()}
        onChange={(event) => {
          const value = Number(event.currentTarget.value);
          if (hold.isHeld()) {
            setFrames(value);
            hold.show(value ? smoothedOf(camera, chosen, value) : null);
          } else if (value > 0) edit(smoothedOf(camera, chosen, value)); // by a key: at once
        }}
        onPointerUp={(event) => {
          event.currentTarget.blur();
          hold.letGo(true);
          setFrames(0);
        }}
        onPointerCancel={() => {
          hold.letGo(false);
          setFrames(0);
        }}
      />
      <span className="mono">{frames ? `over ${frames} f` : "–"}</span>
    </label>
  );
}

/** How the camera's channels go on before their first key and after their last, of the chosen groups or of all. */
export function BeyondTheKeys({ camera, chosen }: { camera: CameraView; chosen: ChosenKeys | null }) {
  const channels = useSession((s) => part<ChannelsPart>(s, camera.channels));
  const found = Object.values(channels?.keyed ?? {}).filter((keys) => keys.times.length > 1);
  if (!found.length) return null;
  const one = (side: "before" | "after") => {
    const ways = new Set(found.map(({ beyond }) => beyond[side]));
    return ways.size === 1 ? [...ways][0]! : null;
  };
  const groups = chosen?.groups ?? null;
  const set = (changes: Partial<Pick<GoOnBeyondKeys, "before" | "after">>) =>
    edit({
      edit: "go on beyond keys",
      camera_id: camera.id,
      groups,
      before: one("before") ?? "hold",
      after: one("after") ?? "hold",
      ...changes,
    });
  const field = (side: "before" | "after", label: string) => (
    <Select
      size="xs"
      label={label}
      placeholder="differs"
      data={BEYOND_KEYS.map((value) => ({ value, label: BEYOND_TITLES[value] }))}
      value={one(side)}
      allowDeselect={false}
      disabled={camera.locked}
      onChange={(way) => way && set({ [side]: way })}
    />
  );
  return (
    <div className="fields" style={{ gridTemplateColumns: "1fr 1fr" }}>
      {field("before", "before its keys")}
      {field("after", `after${groups ? `, ${groups.join(", ")}` : ""}`)}
    </div>
  );
}
