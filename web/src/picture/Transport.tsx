/** Play controls and the scrub bar, the one horizontal thing about time. */
import { IconPlayerPauseFilled, IconPlayerPlayFilled } from "@tabler/icons-react";
import { useMantineColorScheme } from "@mantine/core";
import { useEffect, useRef } from "react";
import { goTo, stop, togglePlay } from "../state/playback";
import { playRange, setSession, useSession } from "../state/session";
import { inkOf } from "../state/ink";
import { useEachFrame } from "../state/eachFrame";
import { FrameText } from "../widgets/FrameText";

/** On both sides of the scrub bar, px. */
const MARGIN = 4;

export function Transport() {
  const scene = useSession((s) => s.scene)!;
  const playing = useSession((s) => s.playing);
  const loop = useSession((s) => s.loop);
  const everyFrame = useSession((s) => s.everyFrame);
  const dropped = useSession((s) => s.dropped);
  const range = useSession((s) => s.range);
  const [first, last] = playRange({ scene, range });
  return (
    <div className="transport">
      <button className="round" onClick={togglePlay} aria-label={playing ? "Pause" : "Play"} title="Space">
        {playing ? <IconPlayerPauseFilled size={13} /> : <IconPlayerPlayFilled size={13} />}
      </button>
      <span className="soft">{Number(scene.rate_float.toFixed(3))} f/s</span>
      <Scrub />
      <FrameText className="mono" of={(frame) => `${frame - first + 1} / ${last - first + 1}`} />
      {(playing || dropped > 0) && !everyFrame && (
        <span className="mono soft" data-testid="dropped" title="Frames left out so that time keeps up">
          {dropped} dropped
        </span>
      )}
      <button className="toggle" aria-pressed={loop} onClick={() => setSession({ loop: !loop })}>
        loop
      </button>
      <button
        className="toggle"
        aria-pressed={everyFrame}
        onClick={() => setSession({ everyFrame: !everyFrame, dropped: 0 })}
        title="Play every frame, slower where it has to be; otherwise frames are dropped to keep time"
      >
        every frame
      </button>
    </div>
  );
}

function Scrub() {
  const scene = useSession((s) => s.scene)!;
  const range = useSession((s) => s.range);
  const { colorScheme } = useMantineColorScheme();
  const slider = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLCanvasElement>(null);
  const now = useRef<HTMLDivElement>(null);
  const count = scene.last - scene.first + 1;
  useEffect(() => {
    const canvas = bar.current!;
    const { clientWidth: width, clientHeight: height } = canvas;
    if (width <= 8) return;
    canvas.width = width * devicePixelRatio;
    canvas.height = height * devicePixelRatio;
    const pen = canvas.getContext("2d")!;
    pen.scale(devicePixelRatio, devicePixelRatio);
    const ink = inkOf(canvas);
    const place = (f: number) => MARGIN + ((f - scene.first) / Math.max(1, count - 1)) * (width - 2 * MARGIN);
    const [first, last] = playRange({ scene, range });
    pen.fillStyle = ink("--blue-pale");
    if (range) pen.fillRect(place(first), 4, place(last) - place(first), height - 8);
    pen.fillStyle = ink("--soft");
    pen.fillRect(MARGIN, height - 5, width - 2 * MARGIN, 1);
    const every = Math.ceil(count / ((width - 2 * MARGIN) / 4));
    for (let f = scene.first; f <= scene.last; f += every) {
      const long = (f - scene.first) % (every * 8) === 0;
      pen.fillRect(Math.round(place(f)), height - (long ? 12 : 9), 1, long ? 7 : 4);
    }
  }, [scene, range, count, colorScheme]);
  useEachFrame((frame) => {
    const share = (frame - scene.first) / Math.max(1, count - 1);
    const x = Math.round(MARGIN + share * (bar.current!.clientWidth - 2 * MARGIN)) - 1;
    now.current!.style.transform = `translateX(${x}px)`;
    slider.current!.setAttribute("aria-valuenow", String(frame));
  });
  const seek = (event: React.PointerEvent) => {
    const box = bar.current!.getBoundingClientRect();
    goTo(scene.first + ((event.clientX - box.left - MARGIN) / (box.width - 2 * MARGIN)) * (count - 1));
  };
  return (
    <div
      ref={slider}
      className="scrub"
      role="slider"
      tabIndex={0}
      aria-label="Frame"
      aria-valuemin={scene.first}
      aria-valuemax={scene.last}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        stop();
        seek(event);
      }}
      onPointerMove={(event) => event.buttons === 1 && seek(event)}
    >
      <canvas ref={bar} />
      <div ref={now} className="now" />
    </div>
  );
}
