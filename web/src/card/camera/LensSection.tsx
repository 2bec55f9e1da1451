/** What does the lens do? Film back, focal length and field of view, squeeze, shift, planes; the scene's delivery frame. */
import { Select, Switch } from "@mantine/core";
import { useState } from "react";
import type { CameraPart, CameraView, FilmBack, Glass, SceneView } from "../../api/generated";
import { frameAspect, usedBack } from "../../optics/lens";
import type { Pose } from "../../optics/pose";
import { edit } from "../../state/edits";
import { useSession } from "../../state/session";
import { Figure, degrees } from "../../widgets/Figure";
import { Fields, NumberField } from "../../widgets/NumberField";

const BACKS: [string, number, number][] = [
  ["Full frame", 36, 24],
  ["Super 35", 24.89, 18.66],
  ["Academy", 21.95, 16],
  ["16 mm", 12.52, 7.41],
  ["Phone", 9.8, 7.3],
  ["Large format", 54.12, 25.59],
];
const FOCALS = [14, 18, 24, 28, 35, 40, 50, 65, 85, 100, 135, 200];
const GATES: { value: FilmBack["gate"]; label: string }[] = [
  { value: "crop", label: "crop: the largest inside" },
  { value: "reach", label: "reach: the smallest around" },
  { value: "width", label: "keep its width" },
  { value: "height", label: "keep its height" },
];
const FRAMES: [string, number, number, number][] = [
  ["HD, 16 : 9", 1920, 1080, 1],
  ["UHD, 16 : 9", 3840, 2160, 1],
  ["Cinema flat, 1.85", 1998, 1080, 1],
  ["Cinema scope, 2.39", 2048, 858, 1],
  ["4 : 3", 1440, 1080, 1],
  ["Square", 1080, 1080, 1],
  ["Upright, 9 : 16", 1080, 1920, 1],
  ["Upright, 4 : 5", 1080, 1350, 1],
];

interface LensProps {
  camera: CameraView;
  path: CameraPart;
  pose: Pose;
}

export function LensSection({ camera, pose }: LensProps) {
  const scene = useSession((s) => s.scene)!;
  const { back, glass } = camera;
  const locked = camera.locks.includes("lens");
  const used = usedBack(back, frameAspect(scene));
  const across = (2 * Math.atan(used.width / 2 / pose.focal_mm) * 180) / Math.PI;
  const up = (2 * Math.atan(used.height / 2 / pose.focal_mm) * 180) / Math.PI;
  const set = (changedBack: Partial<FilmBack>, changedGlass: Partial<Glass> = {}) =>
    edit({
      edit: "set camera lens",
      camera_id: camera.id,
      back: { ...back, ...changedBack },
      glass: { ...glass, ...changedGlass },
    });
  const focal = (focal_mm: number) =>
    edit({
      edit: "set camera values",
      camera_id: camera.id,
      values: { focal_mm },
    });
  const named = BACKS.find(([, w, h]) => w === back.width_mm && h === back.height_mm);
  const parallel = glass.orthographic_height_m !== null;
  return (
    <>
      {!parallel && (
        <>
          <Fields columns={2}>
            <NumberField
              label="focal length"
              value={pose.focal_mm}
              unit="mm"
              digits={1}
              min={1}
              max={5000}
              disabled={locked}
              onSet={focal}
            />
            <NumberField
              label="view across"
              value={across}
              unit="°"
              digits={2}
              min={0.1}
              max={179}
              disabled={locked}
              onSet={(v) => focal(used.width / 2 / Math.tan((v * Math.PI) / 360))}
            />
          </Fields>
          <div className="placements" role="group" aria-label="Focal lengths">
            {FOCALS.map((mm) => (
              <button
                key={mm}
                className="toggle"
                aria-pressed={Math.abs(mm - pose.focal_mm) < 0.05}
                disabled={locked}
                onClick={() => focal(mm)}
              >
                {mm}
              </button>
            ))}
          </div>
          <Figure label="view up and down">{degrees(up)}</Figure>
        </>
      )}
      <Switch
        label="parallel view, for review"
        size="xs"
        my={6}
        checked={parallel}
        disabled={locked}
        onChange={() => set({}, { orthographic_height_m: parallel ? null : 2.5 })}
      />
      {parallel && (
        <NumberField
          label="height it shows"
          value={glass.orthographic_height_m!}
          unit="m"
          digits={3}
          min={0.001}
          disabled={locked}
          onSet={(v) => set({}, { orthographic_height_m: v })}
        />
      )}
      <Select
        label="film back"
        data={[
          ...BACKS.map(([name, w, h]) => ({ value: name, label: `${name}, ${w} × ${h} mm` })),
          { value: "own", label: "own" },
        ]}
        value={named?.[0] ?? "own"}
        allowDeselect={false}
        disabled={locked}
        onChange={(name) => {
          const found = BACKS.find(([n]) => n === name);
          if (found) set({ width_mm: found[1], height_mm: found[2] });
        }}
      />
      <Fields columns={3}>
        <NumberField
          label="back wide"
          value={back.width_mm}
          unit="mm"
          digits={2}
          disabled={locked}
          onSet={(width_mm) => set({ width_mm })}
        />
        <NumberField
          label="high"
          value={back.height_mm}
          unit="mm"
          digits={2}
          disabled={locked}
          onSet={(height_mm) => set({ height_mm })}
        />
        <NumberField
          label="squeeze"
          value={back.squeeze}
          digits={3}
          min={0.1}
          disabled={locked}
          onSet={(squeeze) => set({ squeeze })}
        />
      </Fields>
      <Select
        label="how the frame is taken from it"
        data={GATES}
        value={back.gate}
        allowDeselect={false}
        disabled={locked}
        onChange={(gate) => set({ gate: gate as FilmBack["gate"] })}
      />
      <Fields columns={2}>
        <NumberField
          label="shift right"
          value={glass.shift_x * 100}
          unit="%"
          digits={1}
          disabled={locked}
          onSet={(v) => set({}, { shift_x: v / 100 })}
        />
        <NumberField
          label="shift up"
          value={glass.shift_y * 100}
          unit="%"
          digits={1}
          disabled={locked}
          onSet={(v) => set({}, { shift_y: v / 100 })}
        />
        <NumberField
          label="near plane"
          value={glass.near_m}
          unit="m"
          digits={3}
          min={0.0001}
          disabled={locked}
          onSet={(near_m) => set({}, { near_m })}
        />
        <NumberField
          label="far plane (0: none)"
          value={glass.far_m ?? 0}
          unit="m"
          digits={2}
          min={0}
          disabled={locked}
          onSet={(v) => set({}, { far_m: v > 0 ? v : null })}
        />
        <NumberField
          label="shutter"
          value={glass.shutter_deg}
          unit="°"
          digits={0}
          min={1}
          max={360}
          disabled={locked}
          onSet={(shutter_deg) => set({}, { shutter_deg })}
        />
      </Fields>
      <DeliverySettings scene={scene} camera={camera} />
    </>
  );
}

/** The frame that the scene is delivered in, and what every camera gains or loses by another one. */
function DeliverySettings({ scene, camera }: { scene: SceneView; camera: CameraView }) {
  const named = FRAMES.find(
    ([, w, h, p]) => w === scene.width && h === scene.height && p === scene.pixel_aspect,
  );
  const set = (width: number, height: number, pixel_aspect: number) => {
    setBefore(frameAspect(scene));
    edit({ edit: "set delivery frame", delivery: { width, height, pixel_aspect } });
  };
  const [before, setBefore] = useState<number | null>(null);
  const { back } = camera;
  const used = usedBack(back, frameAspect(scene));
  const share = (part: number, whole: number) => `${((part / whole) * 100).toFixed(0)} %`;
  return (
    <>
      <h4>Delivery frame of the scene</h4>
      <Select
        aria-label="Delivery frame"
        data={[
          ...FRAMES.map(([name, w, h]) => ({ value: name, label: `${name}, ${w} × ${h}` })),
          { value: "own", label: "own" },
        ]}
        value={named?.[0] ?? "own"}
        allowDeselect={false}
        onChange={(name) => {
          const found = FRAMES.find(([n]) => n === name);
          if (found) set(found[1], found[2], found[3]);
        }}
      />
      <Fields columns={3}>
        <NumberField
          label="wide"
          value={scene.width}
          unit="px"
          digits={0}
          min={1}
          onSet={(v) => set(v, scene.height, scene.pixel_aspect)}
        />
        <NumberField
          label="high"
          value={scene.height}
          unit="px"
          digits={0}
          min={1}
          onSet={(v) => set(scene.width, v, scene.pixel_aspect)}
        />
        <NumberField
          label="pixel aspect"
          value={scene.pixel_aspect}
          digits={3}
          min={0.1}
          max={10}
          onSet={(v) => set(scene.width, scene.height, v)}
        />
      </Fields>
      <Figure label="of the back’s width">{share(used.width, back.width_mm * back.squeeze)}</Figure>
      <Figure label="of the back’s height">{share(used.height, back.height_mm)}</Figure>
      {before !== null && <GainsAndLosses scene={scene} before={before} />}
    </>
  );
}

/** How much more or less than with the frame before each film back of the scene takes in; the lenses stay as they are. */
function GainsAndLosses({ scene, before }: { scene: SceneView; before: number }) {
  const now = frameAspect(scene);
  const groups = new Map<string, { back: FilmBack; count: number }>();
  for (const { back, glass } of scene.cameras) {
    const name = glass.orthographic_height_m === null ? JSON.stringify(back) : "parallel";
    groups.set(name, { back, count: (groups.get(name)?.count ?? 0) + 1 });
  }
  const change = (to: number, from: number) => {
    const percent = Math.round((to / from - 1) * 100);
    return percent === 0 ? "the same" : percent > 0 ? `gains ${percent} %` : `loses ${-percent} %`;
  };
  return (
    <div data-testid="gains">
      {[...groups].map(([name, { back, count }]) => {
        const parallel = name === "parallel";
        const [to, from] = [usedBack(back, now), usedBack(back, before)];
        const kind = BACKS.find(([, w, h]) => w === back.width_mm && h === back.height_mm)?.[0] ?? "own back";
        return (
          <div key={name}>
            <h4>
              {count} {parallel ? "parallel" : kind.toLowerCase()}
            </h4>
            <Figure label="across">{parallel ? change(now, before) : change(to.width, from.width)}</Figure>
            <Figure label="up and down">{parallel ? "the same" : change(to.height, from.height)}</Figure>
          </div>
        );
      })}
    </div>
  );
}
