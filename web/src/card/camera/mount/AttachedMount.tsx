/** What carries a camera, rigidly or trailing, and which axes of it are let through. */
import { Checkbox } from "@mantine/core";
import type { CameraView, Subject } from "../../../api/generated";
import { notify } from "../../../state/session";
import { likelySubject } from "../../../state/subjects";
import { NumberField } from "../../../widgets/NumberField";
import { SubjectPicker } from "../../SubjectPicker";
import { FollowsSwitch } from "./FollowsSwitch";
import type { MountKind } from "./mountKind";
import { type Attachment, mount } from "./mounting";

const AXES = ["x", "y", "z", "heading", "pitch", "roll"];

function AttachmentSettings({
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

function attachment(kind: "carried" | "trailing", subject: Subject): Attachment {
  const base = {
    subject: {
      ...subject,
      offset: [0, 0, 0] as [number, number, number],
      axes: "world" as const,
      radius_m: 0,
    },
    through: [true, true, true, true, true, true] as Attachment["through"],
    place: [0, 0, 0] as [number, number, number],
    turn: [0, 0, 0, 1] as [number, number, number, number],
    heading: 0,
    follows: "motion" as const,
  };
  return kind === "carried" ? { ...base, kind } : { ...base, kind, half_life_s: 0.25 };
}

function begin(kind: Attachment["kind"], camera: CameraView): void {
  const carrier = likelySubject();
  if (camera.mount.kind === "carried" || camera.mount.kind === "trailing") {
    const { subject, through, follows } = camera.mount;
    mount(camera, { ...attachment(kind, subject), through, follows }, true);
  } else if (!carrier) notify("There is nothing to carry it. Bring in a character first.");
  else mount(camera, attachment(kind, carrier), true);
}

const CARRIED: MountKind<"carried"> = {
  kind: "carried",
  place: 5,
  settings: (carried, props) => <AttachmentSettings {...props} carried={carried} />,
  begin: (camera) => begin("carried", camera),
};
const TRAILING: MountKind<"trailing"> = {
  kind: "trailing",
  place: 6,
  settings: (trailing, props) => <AttachmentSettings {...props} carried={trailing} />,
  begin: (camera) => begin("trailing", camera),
};

export const KINDS = [CARRIED, TRAILING];
