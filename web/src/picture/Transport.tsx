/** Play controls and the scrub bar, the one horizontal thing about time. */
import { IconPlayerPauseFilled, IconPlayerPlayFilled } from "@tabler/icons-react";
import { useMantineColorScheme } from "@mantine/core";
import { useEffect, useRef } from "react";
import { goTo, stop, togglePlay } from "../state/playback";
import { playRange, setSession, useSession } from "../state/session";
import { inkOf } from "../state/ink";

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
      <FrameCount first={first} last={last} />
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

function FrameCount({ first, last }: { first: number; last: number }) {
  const frame = useSession((s) => s.frame);
  return (
    <span className="mono">
      {frame - first + 1} / {last - first + 1}
    </span>
  );
}

function Scrub() {
  const scene = useSession((s) => s.scene)!;
  const frame = useSession((s) => s.frame);
  const range = useSession((s) => s.range);
  const { colorScheme } = useMantineColorScheme();
  const bar = useRef<HTMLCanvasElement>(null);
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
    const place = (f: number) => 4 + ((f - scene.first) / Math.max(1, count - 1)) * (width - 8);
    const [first, last] = playRange({ scene, range });
    pen.fillStyle = ink("--blue-pale");
    if (range) pen.fillRect(place(first), 4, place(last) - place(first), height - 8);
    pen.fillStyle = ink("--soft");
    pen.fillRect(4, height - 5, width - 8, 1);
    const every = Math.ceil(count / ((width - 8) / 4));
    for (let f = scene.first; f <= scene.last; f += every) {
      const long = (f - scene.first) % (every * 8) === 0;
      pen.fillRect(Math.round(place(f)), height - (long ? 12 : 9), 1, long ? 7 : 4);
    }
    pen.fillStyle = ink("--graphite");
    pen.fillRect(Math.round(place(frame)) - 1, 2, 2, height - 4);
  }, [scene, frame, range, count, colorScheme]);
  const seek = (event: React.PointerEvent) => {
    const box = bar.current!.getBoundingClientRect();
    goTo(scene.first + ((event.clientX - box.left - 4) / (box.width - 8)) * (count - 1));
  };
  return (
    <div
      className="scrub"
      role="slider"
      tabIndex={0}
      aria-label="Frame"
      aria-valuemin={scene.first}
      aria-valuemax={scene.last}
      aria-valuenow={frame}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        stop();
        seek(event);
      }}
      onPointerMove={(event) => event.buttons === 1 && seek(event)}
    >
      <canvas ref={bar} />
    </div>
  );
}
