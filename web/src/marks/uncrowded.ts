/** Names beside things that are drawn, without one lying over another. */
import type { CameraView } from "../api/generated";

const LABEL = { letter: 6.8, height: 15, right: 10, up: 12 };

/** Where the names of cameras stand; one that would lie over an earlier one is left out. To the right there is
 * `room` pixels; beyond it a name stands on the left. */
export function uncrowded(shown: { camera: CameraView; eye: [number, number] | null }[], room = Infinity) {
  const placed: { camera: CameraView; x: number; y: number; width: number }[] = [];
  for (const { camera, eye } of shown) {
    if (!eye) continue;
    const width = camera.name.length * LABEL.letter;
    const beside = eye[0] + LABEL.right;
    const x = beside + width > room && eye[0] < room ? eye[0] - LABEL.right - width : beside;
    const y = eye[1] - LABEL.up;
    const free = placed.every(
      (other) => Math.abs(other.y - y) >= LABEL.height || x > other.x + other.width || x + width < other.x,
    );
    if (free) placed.push({ camera, x, y, width });
  }
  return placed;
}
