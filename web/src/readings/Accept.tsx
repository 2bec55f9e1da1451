/** A reading is let stand for a reason, or told again. */
import { ActionIcon, Button, TextInput } from "@mantine/core";
import { IconCheck } from "@tabler/icons-react";
import { useState } from "react";
import type { Acceptance, ReadingView } from "../api/generated";
import { edit } from "../state/edits";

const aboutOf = ({ kind, character_id, camera_id, joint, first }: ReadingView) => ({
  kind,
  character_id: character_id ?? "",
  camera_id: camera_id ?? "",
  joint: joint ?? "",
  first,
});

function takeBack({ kind, character_id, camera_id, joint, first }: Acceptance): void {
  edit({ edit: "take acceptance back", kind, character_id, camera_id, joint, first });
}

export function Accept({ reading }: { reading: ReadingView }) {
  const [asks, setAsks] = useState(false);
  if (reading.accepted !== null)
    return (
      <Button title="Have it told again" onClick={() => takeBack(reading.accepted!)}>
        Tell again
      </Button>
    );
  if (!asks)
    return (
      <ActionIcon
        variant="subtle"
        color="gray"
        aria-label="Let it stand"
        title="Let it stand, for a reason: it is told no more until it changes"
        onClick={() => setAsks(true)}
      >
        <IconCheck size={16} />
      </ActionIcon>
    );
  const accept = (reason: string) => {
    const { last, size } = reading;
    edit({ edit: "accept reading", accepted: { ...aboutOf(reading), last, size, reason } });
  };
  return (
    <TextInput
      className="reason"
      size="xs"
      autoFocus
      aria-label="Why it may stand"
      placeholder="why it may stand, then Enter"
      maxLength={400}
      onBlur={() => setAsks(false)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") setAsks(false);
        if (event.key !== "Enter" || !event.currentTarget.value.trim()) return;
        accept(event.currentTarget.value);
        setAsks(false);
      }}
    />
  );
}
