/** A part of a whole; its name is also its colour. */
export interface Part {
  name: string;
  count: number;
}
