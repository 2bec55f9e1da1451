/** A place that is measured from or to, metres, and what is there. */
export interface MeasuredPoint {
  x: number;
  y: number;
  z: number;
  name: string;
}
