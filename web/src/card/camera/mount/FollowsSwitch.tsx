/** Whether something follows the motion on ones, or the shown, stepped pose. */
import { Switch } from "@mantine/core";

export function FollowsSwitch({
  value,
  disabled,
  onChange,
}: {
  value: "motion" | "shown";
  disabled?: boolean;
  onChange: (value: "motion" | "shown") => void;
}) {
  return (
    <Switch
      label={value === "motion" ? "follows the motion, on ones" : "follows the shown, stepped pose"}
      size="xs"
      my={6}
      disabled={disabled}
      checked={value === "shown"}
      onChange={() => onChange(value === "motion" ? "shown" : "motion")}
    />
  );
}
