/** Words on paper, over the Picture. */
const LETTER_PX = 7.25;
export const LABEL_HEIGHT = 18;

export const labelWidth = (text: string) => text.length * LETTER_PX + 12;

export function Label({ x, y, text, color }: { x: number; y: number; text: string; color: string }) {
  const width = labelWidth(text);
  return (
    <g fontSize={12} fontFamily="var(--mono)">
      <rect
        x={x}
        y={y - 13}
        width={width}
        height={LABEL_HEIGHT}
        rx={3}
        fill="var(--over-paper)"
        stroke={color}
        strokeWidth={0.8}
      />
      <text x={x + 6} y={y} fill={color}>
        {text}
      </text>
    </g>
  );
}
