/** A part of a whole; its name is also its colour, and its word unless it has a label. */
export interface Part {
  name: string;
  count: number;
  label?: string;
}
