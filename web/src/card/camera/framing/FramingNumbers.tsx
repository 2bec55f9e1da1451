/** The numbers behind the drawing: its place and weight, and what the size is measured on and may do. */
import type { CameraPart, CameraView, Framing } from "../../../api/generated";
import { useSession, chosenCharacter } from "../../../state/session";
import { jointSubject } from "../../../state/subjects";
import { Fields, NumberField } from "../../../widgets/NumberField";
import { Numbers } from "../../../widgets/Numbers";
import { SubjectPicker } from "../../SubjectPicker";
import { ChannelField } from "../ChannelField";
import { FollowsSwitch } from "../mount/FollowsSwitch";

interface FramingNumbersProps {
  camera: CameraView;
  framing: Framing;
  path: CameraPart;
  row: number;
  locked: boolean;
  set: (framing: Framing) => void;
}

export function FramingNumbers({ camera, framing, path, row, locked, set }: FramingNumbersProps) {
  const { size } = framing;
  return (
    <Numbers>
      <Fields columns={2}>
        <NumberField
          label="across"
          value={framing.x * 100}
          unit="%"
          digits={1}
          disabled={locked}
          onSet={(v) => set({ ...framing, x: v / 100 })}
        />
        <NumberField
          label="down"
          value={framing.y * 100}
          unit="%"
          digits={1}
          disabled={locked}
          onSet={(v) => set({ ...framing, y: v / 100 })}
        />
        <NumberField
          label="half caught up after"
          value={framing.half_life_s}
          unit="s"
          digits={3}
          min={0}
          max={60}
          disabled={locked}
          onSet={(half_life_s) => set({ ...framing, half_life_s })}
        />
        <ChannelField camera={camera} path={path} row={row} name="framing_weight" label="weight" />
      </Fields>
      <FollowsSwitch
        value={framing.follows}
        disabled={locked}
        onChange={(follows) => set({ ...framing, follows })}
      />
      {size && (
        <SizeNumbers
          size={size}
          locked={locked}
          change={(c) => set({ ...framing, size: { ...size, ...c } })}
        />
      )}
    </Numbers>
  );
}

type Size = NonNullable<Framing["size"]>;

interface SizeProps {
  size: Size;
  locked: boolean;
  change: (changed: Partial<Size>) => void;
}

function SizeNumbers({ size, locked, change }: SizeProps) {
  const limit = (label: string, name: "nearest_m" | "farthest_m" | "shortest_mm" | "longest_mm") => (
    <NumberField
      label={label}
      value={size[name]}
      unit={name.endsWith("_m") ? "m" : "mm"}
      digits={name.endsWith("_m") ? 2 : 0}
      disabled={locked}
      onSet={(v) => change({ [name]: v })}
    />
  );
  return (
    <>
      <Fields columns={3}>
        <NumberField
          label="of the height"
          value={size.share * 100}
          unit="%"
          digits={1}
          min={0.1}
          disabled={locked}
          onSet={(v) => change({ share: v / 100 })}
        />
        {size.by === "dolly" ? limit("nearest", "nearest_m") : limit("shortest", "shortest_mm")}
        {size.by === "dolly" ? limit("farthest", "farthest_m") : limit("longest", "longest_mm")}
      </Fields>
      <SizeMarks size={size} locked={locked} change={change} />
    </>
  );
}

/** What the size is measured on: the subject as a whole, or the distance between two marks. */
function SizeMarks({ size, locked, change }: SizeProps) {
  const character = useSession((s) => chosenCharacter(s));
  const { marks } = size;
  const begin = () =>
    character &&
    change({
      marks: [
        jointSubject(character.id, character.face_joint),
        jointSubject(character.id, character.calm_joint),
      ],
    });
  return (
    <>
      <button
        className="toggle"
        disabled={locked || (!marks && !character)}
        aria-pressed={marks !== null}
        onClick={() => (marks ? change({ marks: null }) : begin())}
      >
        measured between two marks
      </button>
      {marks?.map((mark, index) => (
        <SubjectPicker
          key={index}
          label={`Mark ${index + 1}`}
          subject={mark}
          disabled={locked}
          onChoose={(chosen) => change({ marks: index === 0 ? [chosen, marks[1]!] : [marks[0]!, chosen] })}
        />
      ))}
    </>
  );
}
