/** What is sharp? Aperture and focus, focus pulls, the depth of field in figures and in the Picture. */
import { Button, SegmentedControl } from "@mantine/core";
import type { CameraPart, CameraView, Focus, SubjectsPart } from "../../api/generated";
import { edit } from "../../state/edits";
import { type FocusTint, part, session, setSession, useSession } from "../../state/session";
import { Figure, metres, px } from "../../widgets/Figure";
import { Fields, NumberField } from "../../widgets/NumberField";
import { SubjectPicker } from "../SubjectPicker";
import { Targets, targetOf } from "./AimSection";
import { ChannelField } from "./ChannelField";
import { FollowsSwitch } from "./mount/FollowsSwitch";

const BEYOND_M = 1e6;

export function FocusSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const tint = useSession((s) => s.focusTint);
  const subjects = useSession((s) => part<SubjectsPart>(s, s.scene?.subjects));
  const locked = camera.locks.includes("lens");
  if (camera.glass.orthographic_height_m !== null)
    return <p className="why">A parallel view is sharp throughout.</p>;
  const set = (focus: Focus | null) =>
    edit({ edit: "focus camera", camera_id: camera.id, focus, frame: session().frame });
  const [focus, near, far, hyperfocal] = [0, 1, 2, 3].map((i) => path.depths[row * 4 + i]!) as [
    number,
    number,
    number,
    number,
  ];
  const { glass } = camera;
  return (
    <>
      <Fields columns={2}>
        <ChannelField camera={camera} path={path} row={row} name="aperture" label="aperture f/" digits={2} />
        {camera.focus ? (
          <Figure label="focus at">{metres(focus)}</Figure>
        ) : (
          <ChannelField camera={camera} path={path} row={row} name="focus_m" label="focus at" digits={3} />
        )}
      </Fields>
      {camera.focus ? (
        <>
          <Targets
            targets={camera.focus.targets}
            locked={locked}
            verb="pulls to"
            onChange={(targets) => set({ ...camera.focus!, targets })}
          />
          <FollowsSwitch
            value={camera.focus.follows}
            disabled={locked}
            onChange={(follows) => set({ ...camera.focus!, follows })}
          />
          <Button disabled={locked} onClick={() => set(null)}>
            Let the focus go
          </Button>
        </>
      ) : (
        <SubjectPicker
          label="Focus on"
          subject={null}
          disabled={locked}
          onChoose={(s) => set({ targets: [targetOf([s])], follows: "motion" })}
        />
      )}
      <h4>Depth of field</h4>
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label="How depth of field is shown"
        value={tint}
        data={[
          { value: "off", label: "not shown" },
          { value: "tint", label: "tinted" },
          { value: "blur", label: "blurred" },
        ]}
        onChange={(value) => setSession({ focusTint: value as FocusTint })}
      />
      <Figure label="sharp from">{metres(near)}</Figure>
      <Figure label="to">{far > BEYOND_M ? "infinity" : metres(far)}</Figure>
      <Figure label="hyperfocal">{metres(hyperfocal)}</Figure>
      {subjects?.characters.map((character) => (
        <Figure key={character.name} label={`blur of ${character.name}`}>
          {px(character.blur_px[row])}
        </Figure>
      ))}
      {subjects && <Figure label="still sharp up to">{px(subjects.circle_px)}</Figure>}
      <NumberField
        label="circle of confusion (0: 1500th of the diagonal)"
        value={glass.circle_mm ?? 0}
        unit="mm"
        digits={4}
        min={0}
        disabled={locked}
        onSet={(v) =>
          edit({
            edit: "set camera lens",
            camera_id: camera.id,
            back: camera.back,
            glass: { ...glass, circle_mm: v > 0 ? v : null },
          })
        }
      />
    </>
  );
}
