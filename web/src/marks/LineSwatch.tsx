/** A camera's line: its tint and pattern, as it is drawn everywhere. */
import type { CameraView } from "../api/generated";
import { dashesOf, tintOf } from "../state/lines";

export function LineSwatch({ camera }: { camera: Pick<CameraView, "tint" | "pattern"> }) {
  return (
    <svg width={16} height={10} aria-hidden="true" className="swatch">
      <path d="M0 5H16" stroke={tintOf(camera)} strokeWidth={3} strokeDasharray={dashesOf(camera)} />
    </svg>
  );
}
