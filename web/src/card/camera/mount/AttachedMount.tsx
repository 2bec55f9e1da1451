/** What carries a camera, rigidly or trailing, and what of its movement comes along. */
import { Fields, NumberField } from "../../../widgets/NumberField";
import { Numbers } from "../../../widgets/Numbers";
import { SubjectPicker } from "../../SubjectPicker";
import { FollowsSwitch } from "./FollowsSwitch";
import type { MountKind } from "./mountKind";
import { WhatComesAlong } from "./WhatComesAlong";
import { type Attachment, type SettingsProps, mount } from "./mounting";

function AttachmentSettings({ camera, carried, path, row, locked }: SettingsProps & { carried: Attachment }) {
  const take = (through: Attachment["through"]) => mount(camera, { ...carried, through }, true);
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
      <WhatComesAlong carried={carried} path={path} row={row} locked={locked} set={take} />
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
        It keeps the offset that it had when it was attached. What does not come along stays as it was then.
      </p>
      <Numbers>
        <Fields columns={2}>
          {(["x", "z"] as const).map((label, index) => (
            <NumberField
              key={label}
              label={`travel, ${label}`}
              value={carried.through[index * 2]! * 100}
              unit="%"
              digits={1}
              min={0}
              max={100}
              disabled={locked}
              onSet={(v) =>
                take(carried.through.map((s, i) => (i === index * 2 ? v / 100 : s)) as Attachment["through"])
              }
            />
          ))}
        </Fields>
      </Numbers>
    </>
  );
}

const CARRIED: MountKind<"carried"> = {
  kind: "carried",
  place: 5,
  settings: (carried, props) => <AttachmentSettings {...props} carried={carried} />,
};
const TRAILING: MountKind<"trailing"> = {
  kind: "trailing",
  place: 6,
  settings: (trailing, props) => <AttachmentSettings {...props} carried={trailing} />,
};

export const KINDS = [CARRIED, TRAILING];
