/** What an empty column says: the next step. */
type Ink = (token: string) => string;
type Pen = CanvasRenderingContext2D;

export function teach(pen: Pen, ink: Ink, x: number, lines: string[]): void {
  pen.fillStyle = ink("--soft");
  pen.font = '12px "Barlow Semi Condensed"';
  pen.textAlign = "left";
  lines.forEach((line, index) => pen.fillText(line, x, 20 + 15 * index));
}
