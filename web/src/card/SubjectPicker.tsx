/** Chooses what a mount, an aim, a focus or a framing lock goes by: from a list, or by a click in the Picture. */
import { ActionIcon, Select } from "@mantine/core";
import { IconPointer } from "@tabler/icons-react";
import { useMemo, useState } from "react";
import type { Subject } from "../api/generated";
import { pickInPicture } from "../picture/gestures";
import { useSession } from "../state/session";
import { jointSubject, pointSubject, subjectChoices, subjectTitle, valueOf } from "../state/subjects";
import { Fields, NumberField } from "../widgets/NumberField";

interface SubjectPickerProps {
  label: string;
  subject: Subject | null;
  disabled?: boolean;
  /** Without points, and without an offset. */
  onlyThings?: boolean;
  onChoose: (subject: Subject) => void;
}

const A_POINT = { value: "point", label: "a point, by a click on the ground" };

export function SubjectPicker({ label, subject, disabled, onlyThings, onChoose }: SubjectPickerProps) {
  const scene = useSession((s) => s.scene)!;
  const parts = useSession((s) => s.parts);
  const choices = useMemo(() => subjectChoices({ scene, parts }), [scene, parts]);
  const pick = () =>
    pickInPicture({
      what: onlyThings ? "a joint" : "a joint, or the ground,",
      take: ({ thing, name }) => onChoose(jointSubject(thing.id, name)),
      takePlace: onlyThings ? undefined : ({ x, y, z }) => onChoose(pointSubject([x, y, z])),
    });
  return (
    <>
      <div className="picker">
        <Select
          aria-label={label}
          placeholder={subject ? subjectTitle(scene, subject) : "choose"}
          data={onlyThings ? choices : [...choices, { group: "Place", items: [A_POINT] }]}
          value={valueOf(subject)}
          searchable
          allowDeselect={false}
          disabled={disabled}
          maxDropdownHeight={260}
          onChange={(value) => {
            if (value === A_POINT.value) {
              pick();
              return;
            }
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
      {subject && !onlyThings && <Offset subject={subject} disabled={disabled} onChange={onChoose} />}
    </>
  );
}

/** Where a point is, or how far beside a joint, body or object; for a joint in world or in its own axes. */
function Offset({
  subject,
  disabled,
  onChange,
}: {
  subject: Subject;
  disabled?: boolean;
  onChange: (subject: Subject) => void;
}) {
  const [opened, setOpened] = useState(false);
  const offset = subject.offset as [number, number, number];
  const face = subject.axes === "joint" && subject.radius_m > 0;
  const shown = opened || subject.kind === "point" || (!face && offset.some((v) => v !== 0));
  if (!shown)
    return (
      <button className="toggle" disabled={disabled} onClick={() => setOpened(true)}>
        + offset
      </button>
    );
  return (
    <>
      <Fields columns={3}>
        {["x", "y", "z"].map((axis, index) => (
          <NumberField
            key={axis}
            label={subject.kind === "point" ? axis : `offset ${axis}`}
            value={offset[index]!}
            unit="m"
            digits={3}
            disabled={disabled}
            onSet={(value) =>
              onChange({
                ...subject,
                offset: offset.map((v, i) => (i === index ? value : v)) as [number, number, number],
              })
            }
          />
        ))}
      </Fields>
      {subject.kind === "joint" && (
        <button
          className="toggle"
          disabled={disabled}
          aria-pressed={subject.axes === "joint"}
          onClick={() => onChange({ ...subject, axes: subject.axes === "joint" ? "world" : "joint" })}
        >
          in the joint’s own axes
        </button>
      )}
    </>
  );
}
