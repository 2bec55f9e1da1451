/** What the cards of things and of scenes inside have in common: the name, the way out, and where it stands. */
import { ActionIcon, TextInput } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { Fields, NumberField } from "../../widgets/NumberField";

export function CardName({ name, rename }: { name: string; rename: (name: string) => void }) {
  return (
    <TextInput
      key={name}
      aria-label="Name"
      defaultValue={name}
      variant="unstyled"
      styles={{ input: { fontSize: 16, fontWeight: 600, height: 28, minHeight: 28 } }}
      onBlur={(event) => {
        const wanted = event.currentTarget.value.trim();
        if (wanted && wanted !== name) rename(wanted);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
      }}
    />
  );
}

/** Where cameras or props go by it, it says so, and offers to have them let go first. */
export function TakeOutButton({ goneBy, takeOut }: { goneBy: string[]; takeOut: (letsGo: boolean) => void }) {
  const label = goneBy.length ? "Let go and take out" : "Take out";
  const title = goneBy.length ? `${label}: ${goneBy.join(", ")}` : label;
  return (
    <ActionIcon
      variant="subtle"
      color="gray"
      aria-label={label}
      title={title}
      onClick={() => takeOut(goneBy.length > 0)}
    >
      <IconTrash size={16} />
    </ActionIcon>
  );
}

const PLACE = [
  { name: "x", label: "x", unit: "m", digits: 3 },
  { name: "y", label: "height", unit: "m", digits: 3 },
  { name: "z", label: "z", unit: "m", digits: 3 },
  { name: "turn", label: "turn", unit: "°", digits: 1 },
] as const;
type Place = Record<(typeof PLACE)[number]["name"], number>;

export function PlaceFields({ at, place }: { at: Place; place: (values: Record<string, number>) => void }) {
  return (
    <Fields columns={2}>
      {PLACE.map(({ name, ...field }) => (
        <NumberField key={name} {...field} value={at[name]} onSet={(value) => place({ [name]: value })} />
      ))}
    </Fields>
  );
}
