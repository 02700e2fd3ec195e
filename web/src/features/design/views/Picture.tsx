import type { PicturePath } from "../../../api/client";
import { usePicture } from "../../../api/worked";
import { sharp } from "../../../lib/useSize";

export type Box = { width: number; height: number };

/** A picture of the bar or blade, asked for as the hand moves; says so while it is being drawn. */
export function Picture({
  path,
  body,
  box,
  label,
  lane,
  missing,
}: {
  path: PicturePath;
  body: object;
  box: Box;
  label: string;
  lane: string;
  missing?: string;
}) {
  const picture = usePicture(path, body, sharp(box.width), lane);
  if (!picture.data)
    return (
      <span className="animate-pulse p-2 text-center text-sm text-plate-quiet">
        {picture.failure ? (missing ?? "This bar is never reached.") : "drawing…"}
      </span>
    );
  return <img src={picture.data} alt={label} style={box} className="max-h-full max-w-full object-contain" draggable={false} />;
}

/** The largest box of this shape (mm) in the room (px), never more than `most` px a mm. */
export function fitted(width: number, height: number, room: Box, most = 40): Box {
  const scale = Math.max(0.05, Math.min(room.width / width, room.height / height, most));
  return { width: Math.max(2, Math.round(width * scale)), height: Math.max(2, Math.round(height * scale)) };
}
