import { Button } from "@mantine/core";
import type { CameraView } from "../../../api/generated";
import { useSession } from "../../../state/session";
import { drawRail } from "./mounting";

/** Begins the drawing of a rail on the Plan. */
export function DrawRail({ camera, locked }: { camera: CameraView; locked: boolean }) {
  const drawing = useSession((s) => s.drawingRail === camera.id);
  return (
    <Button
      disabled={locked}
      variant={drawing ? "filled" : undefined}
      title="One stroke on the Plan; the camera is moved onto the rail"
      onClick={() => drawRail(camera)}
    >
      Draw a rail on the Plan
    </Button>
  );
}
