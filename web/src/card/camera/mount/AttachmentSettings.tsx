/** What carries a camera, rigidly or trailing, and which axes of it are let through. */
import { Checkbox } from "@mantine/core";
import type { CameraView } from "../../../api/generated";
import { NumberField } from "../../../widgets/NumberField";
import { SubjectPicker } from "../../SubjectPicker";
import { FollowsSwitch } from "./FollowsSwitch";
import { type Attachment, mount } from "./mounting";

const AXES = ["x", "y", "z", "heading", "pitch", "roll"];

export function AttachmentSettings({
  camera,
  carried,
  locked,
}: {
  camera: CameraView;
  carried: Attachment;
  locked: boolean;
}) {
  return (
    <>
      <SubjectPicker
        label="Carried by"
        onlyThings
        subject={carried.subject}
        disabled={locked}
        onChoose={(subject) =>
          mount(
            camera,
            { ...carried, subject: { ...subject, offset: [0, 0, 0], axes: "world", radius_m: 0 } },
            true,
          )
        }
      />
      <div className="through-axes" role="group" aria-label="What is let through">
        {AXES.map((axis, index) => (
          <Checkbox
            key={axis}
            label={axis}
            size="xs"
            disabled={locked}
            checked={carried.through[index]!}
            onChange={() =>
              mount(
                camera,
                {
                  ...carried,
                  through: carried.through.map((t, i) => (i === index ? !t : t)) as Attachment["through"],
                },
                true,
              )
            }
          />
        ))}
      </div>
      {carried.kind === "trailing" && (
        <NumberField
          label="half of the way caught up after"
          value={carried.half_life_s}
          unit="s"
          digits={3}
          min={0}
          max={60}
          disabled={locked}
          onSet={(half_life_s) => mount(camera, { ...carried, half_life_s }, true)}
        />
      )}
      <FollowsSwitch
        value={carried.follows}
        disabled={locked}
        onChange={(follows) => mount(camera, { ...carried, follows }, true)}
      />
      <p className="why">
        It keeps the offset that it had when it was attached; what is not let through stays as it was then.
        Without y it does not rise and fall; without pitch and roll it turns with the heading alone.
      </p>
    </>
  );
}
