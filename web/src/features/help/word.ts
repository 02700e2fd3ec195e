/** A word of the trade as it is told in help. Pure. */

/** What is drawn: the face of a ready start, or a sketch by its name (Sketch.tsx). */
export type Picture = { face: string } | { sketch: string };
export type Word = {
  key: string;
  term: string;
  /** Other forms it is met in, in small letters. */
  also?: string[];
  says: string;
  see?: string[];
  picture: Picture;
};

export const w = (
  key: string,
  term: string,
  says: string,
  picture: Picture | string,
  also: string[] = [],
  see: string[] = [],
): Word => ({
  key,
  term,
  says,
  picture: typeof picture === "string" ? { sketch: picture } : picture,
  also,
  see,
});
