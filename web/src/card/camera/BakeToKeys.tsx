/** A camera as its mount, aim and lock have it, as keys of a free one. */
import { Button } from "@mantine/core";
import { useState } from "react";
import type { CameraView } from "../../api/generated";
import { edit } from "../../state/edits";
import { session } from "../../state/session";
import { NumberField } from "../../widgets/NumberField";

export function BakeToKeys({ camera }: { camera: CameraView }) {
  const [errorPx, setErrorPx] = useState(0.5);
  const bake = (error_px: number | null) => {
    const { first, last } = session().scene!;
    edit({ edit: "bake camera", camera_id: camera.id, first, last, error_px });
  };
  return (
    <>
      <h4>As keys of a free camera</h4>
      <NumberField
        label="few keys, within"
        value={errorPx}
        unit="px"
        digits={3}
        min={0.001}
        onSet={setErrorPx}
      />
      <div className="actions">
        <Button disabled={camera.locked} onClick={() => bake(errorPx)}>
          Bake to few keys
        </Button>
        <Button disabled={camera.locked} onClick={() => bake(null)}>
          Every frame
        </Button>
      </div>
    </>
  );
}
