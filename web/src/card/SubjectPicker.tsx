/** Chooses what a mount, an aim, a focus or a framing lock goes by: from a list, or by a click in the Picture. */
import { ActionIcon, Select } from "@mantine/core";
import { IconPointer } from "@tabler/icons-react";
import { useMemo } from "react";
import type { Subject } from "../api/generated";
import { pickInPicture } from "../picture/gestures";
import { useSession } from "../state/session";
import { jointSubject, subjectChoices, subjectTitle, valueOf } from "../state/subjects";

interface SubjectPickerProps {
  label: string;
  subject: Subject | null;
  disabled?: boolean;
  onChoose: (subject: Subject) => void;
}

export function SubjectPicker({ label, subject, disabled, onChoose }: SubjectPickerProps) {
  const scene = useSession((s) => s.scene)!;
  const parts = useSession((s) => s.parts);
  const choices = useMemo(() => subjectChoices({ scene, parts }), [scene, parts]);
  const pick = () =>
    pickInPicture({
      what: "a joint",
      take: ({ character, name }) => onChoose(jointSubject(character.id, name)),
    });
  return (
    <div className="picker">
      <Select
        aria-label={label}
        placeholder={subject ? subjectTitle(scene, subject) : "choose"}
        data={choices}
        value={valueOf(subject)}
        searchable
        allowDeselect={false}
        disabled={disabled}
        maxDropdownHeight={260}
        onChange={(value) => {
          const found = choices.flatMap((g) => g.items).find((item) => item.value === value);
          if (found) onChoose(found.subject);
        }}
      />
      <ActionIcon
        variant="default"
        size={30}
        onClick={pick}
        disabled={disabled}
        aria-label={`Click ${label} in the Picture`}
        title="Click it in the Picture"
      >
        <IconPointer size={15} />
      </ActionIcon>
    </div>
  );
}
