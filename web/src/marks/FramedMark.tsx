/** The sign of a held place: a ring with a plumb line. Ochre where the lock cannot reach it. */
export function FramedMark({ x, y, missed }: { x: number; y: number; missed: boolean }) {
  const line = "M0 7V19";
  return (
    <g transform={`translate(${x} ${y})`} className={missed ? "framed-mark missed" : "framed-mark"}>
      <rect x={-9} y={-9} width={18} height={33} fill="transparent" stroke="none" />
      <g className="halo">
        <circle r={7} />
        <path d={line} />
      </g>
      <circle r={7} className="body" />
      <path d={line} />
      <circle cy={20} r={2.2} className="bob" />
    </g>
  );
}
