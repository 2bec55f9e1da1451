/** Ways to step and ride side by side, each with what it leaves; the pictures in the gaps are drawn by the stage. */
import "./trying.css";
import { Button } from "@mantine/core";
import { TERM_TITLES } from "../api/tables";
import { useSession } from "../state/session";
import type { Way } from "../state/way";
import { endTrying, takeWay, tryingRects } from "../state/trying";
import { px } from "../widgets/Figure";

export function Trying({ width, height }: { width: number; height: number }) {
  const trying = useSession((s) => s.trying);
  const revision = useSession((s) => s.scene!.revision);
  const name = useSession((s) => s.scene!.characters.find((c) => c.id === trying?.characterId)?.name);
  if (!trying) return null;
  const stale = revision !== trying.revision;
  const rects = tryingRects(trying, width, height);
  return (
    <div className="trying" data-testid="trying" onPointerDown={(event) => event.stopPropagation()}>
      <div className="head">
        <b>What would be best for {name}?</b>
        <span className="soft">
          {trying.tried} ways tried, <span className="mono">{trying.first}</span> to{" "}
          <span className="mono">{trying.last}</span> again and again
        </span>
        <span className="spacer" />
        <Button size="compact-xs" onClick={endTrying} title="Escape">
          Close
        </Button>
      </div>
      {stale && <p className="stale">The scene was changed meanwhile: close this and ask again.</p>}
      {trying.ways.map((way, at) => (
        <section
          key={way.title}
          className={at === 0 ? "way best" : "way"}
          style={{ left: rects[at]!.x, top: rects[at]!.y, width: rects[at]!.width }}
          aria-label={way.title}
        >
          <div className="gap" style={{ height: rects[at]!.height }} />
          <div className="line">
            <b title={way.title}>{way.title}</b>
            {at === 0 && <i>best</i>}
            <span className="spacer" />
            {way.edit && (
              <button className="toggle" disabled={stale} onClick={() => takeWay(way)}>
                Take
              </button>
            )}
          </div>
          <Figures way={way} />
        </section>
      ))}
      {trying.refused.length > 0 && (
        <p className="refused soft" title={trying.refused.join("\n")}>
          Not tried: {trying.refused[0]}
          {trying.refused.length > 1 && ` And ${trying.refused.length - 1} more.`}
        </p>
      )}
    </div>
  );
}

/** What a way leaves, in two lines at most; first, and standing out, that by which it loses. */
function Figures({ way }: { way: Way }) {
  const feet = way.feet_slide_px;
  const lost = way.lost.length;
  const said: [string, string | false][] = [
    ["slip", `slip ${px(way.slip_px)}`],
    ["", `${way.reversals} jump back`],
    ["feet_slide", feet !== null && feet >= 0.5 && `feet slide ${px(feet)}`],
    ["", (way.legs_stretch ?? 0) >= 0.0005 && `legs +${(way.legs_stretch! * 100).toFixed(1)} %`],
    ["poses_lost", lost > 0 && `${lost} key pose${lost > 1 ? "s" : ""} lost`],
    ["other_look", way.loses_by === "other_look" && TERM_TITLES.other_look],
    ["background_jumps", way.loses_by === "background_jumps" && "the background jumps"],
  ];
  const isWhy = ([term]: [string, string | false]) => term !== "" && term === way.loses_by;
  const others = said.filter((one) => one[1] && !isWhy(one)).map(([, text]) => text);
  const why = said.find(isWhy)?.[1];
  return (
    <p title={way.loses_by ? `It loses by: ${TERM_TITLES[way.loses_by]}` : undefined}>
      {why && <b>{why}</b>}
      {why && others.length > 0 && " · "}
      {others.join(" · ")}
    </p>
  );
}
