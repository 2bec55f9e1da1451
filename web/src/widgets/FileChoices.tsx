/** What a file leaves open: which of its rigs is meant, which animation is played, and how position channels are meant. */
import { Select } from "@mantine/core";
import type { Inspection, RigSource } from "../api/generated";

export type Offsets = NonNullable<RigSource["offsets"]>;
export interface MotionChoice {
  /** One of its rigs, null: all that it shows. */
  rig: string | null;
  animation: string | null;
  offsets: Offsets;
}

const OFFSETS: { value: Offsets; label: string }[] = [
  { value: "auto", label: "decide by evidence" },
  { value: "add", label: "add to the offset" },
  { value: "replace", label: "replace the offset" },
];

const [TOGETHER, EACH] = ["together", "each"];

interface FileChoicesProps {
  found: Inspection;
  choice: MotionChoice;
  onChoose: (changed: Partial<MotionChoice>) => void;
  /** Each of its rigs comes by itself, where that can be chosen. */
  each?: boolean;
  onEach?: (each: boolean) => void;
}

export function FileChoices({ found, choice, onChoose, each = false, onEach }: FileChoicesProps) {
  const rigAt = found.rigs.findIndex(({ name }) => name === choice.rig);
  return (
    <>
      {found.rigs.length > 1 && (
        <Select
          label={`It holds ${found.rigs.length} rigs`}
          data={[
            { value: TOGETHER, label: "all as one" },
            ...(onEach ? [{ value: EACH, label: "each by itself" }] : []),
            ...found.rigs.map(({ name, joints }, at) => ({
              value: `${at}`,
              label: `${name}, ${joints} joints`,
            })),
          ]}
          value={each ? EACH : choice.rig === null ? TOGETHER : `${rigAt}`}
          onChange={(value) => {
            onEach?.(value === EACH);
            onChoose({ rig: found.rigs[Number(value)]?.name ?? null });
          }}
          allowDeselect={false}
          mt={8}
        />
      )}
      {found.animations.length > 1 && (
        <Select
          label="Animation"
          placeholder="the first, or all that go together"
          data={found.animations}
          value={choice.animation}
          onChange={(animation) => onChoose({ animation })}
          clearable
          mt={8}
        />
      )}
      {found.offsets_matter && (
        <Select
          label="Position channels"
          data={OFFSETS}
          value={choice.offsets}
          allowDeselect={false}
          onChange={(offsets) => onChoose({ offsets: (offsets ?? "auto") as Offsets })}
          mt={8}
        />
      )}
      {found.notes.map((note) => (
        <p key={note} className="why">
          {note}
        </p>
      ))}
    </>
  );
}
