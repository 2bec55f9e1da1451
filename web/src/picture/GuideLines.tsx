/** Guides over the frame: thirds, the centre, and lines of one's own, which can be dragged at their grips. */
import { useSession } from "../state/session";
import type { FrameRect } from "../optics/lens";

export function GuideLines({ rect }: { rect: FrameRect }) {
  const guides = useSession((s) => s.guides);
  const lines = useSession((s) => s.guideLines);
  const across = (share: number) => `M${rect.x} ${rect.y + share * rect.height}h${rect.width}`;
  const down = (share: number) => `M${rect.x + share * rect.width} ${rect.y}v${rect.height}`;
  const [cx, cy] = [rect.x + rect.width / 2, rect.y + rect.height / 2];
  let d = "";
  if (guides.includes("thirds")) for (const share of [1 / 3, 2 / 3]) d += across(share) + down(share);
  if (guides.includes("centre")) d += `M${cx - 14} ${cy}h28M${cx} ${cy - 14}v28`;
  const own = guides.includes("own")
    ? lines.map((line) => (line.way === "across" ? across(line.at) : down(line.at))).join("")
    : "";
  if (!d && !own) return null;
  return (
    <g fill="none" data-testid="guides">
      <path d={d + own} stroke="var(--over-ink)" strokeOpacity={0.35} strokeWidth={2.4} />
      <path d={d} stroke="var(--over-halo)" strokeOpacity={0.75} strokeWidth={1} />
      <path d={own} stroke="var(--over-halo)" strokeOpacity={0.95} strokeWidth={1} strokeDasharray="9 3" />
    </g>
  );
}
