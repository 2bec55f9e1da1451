/** What a file leaves open of its motion: which of its animations is played, and how its position channels are meant. */
import { Select } from "@mantine/core";
import type { Inspection, RigSource } from "../api/generated";

export type Offsets = NonNullable<RigSource["offsets"]>;
export interface MotionChoice {
  animation: string | null;
  offsets: Offsets;
}

const OFFSETS: { value: Offsets; label: string }[] = [
  { value: "auto", label: "decide by evidence" },
  { value: "add", label: "add to the offset" },
  { value: "replace", label: "replace the offset" },
];

interface FileChoicesProps {
  found: Inspection;
  choice: MotionChoice;
  onChoose: (changed: Partial<MotionChoice>) => void;
}

export function FileChoices({ found, choice, onChoose }: FileChoicesProps) {
  return (
    <>
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
