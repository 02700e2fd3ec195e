import { Camera } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Entry, Operation, Side } from "../../api/types";
import { useSession } from "../../app/session";
import { Button, Modal } from "../../ui";
import { useToast } from "../../ui/toast";
import { CameraModal } from "../instruments/CameraModal";
import { shotOf } from "./shelf";
import { useBuild } from "./useBuild";

export type Photo = Extract<Entry, { kind: "photo" }>;
const MOST_BYTES = 25_000_000;

/** Opens the camera, or asks for a file: a phone's own camera is better than any page's. */
export function PhotoButton({ op }: { op: Operation }) {
  const { keeper } = useBuild();
  const toast = useToast();
  const field = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState(false);
  const take = (file: Blob) => {
    setOpen(false);
    if (file.size > MOST_BYTES) return toast("That photo has more than 25 MB: take it smaller.");
    void keeper.photograph(op.id, file).then(
      () => toast("Photo kept."),
      (e) => toast(whatWentWrong(e)),
    );
  };
  const choose = () => field.current?.click();
  const held = window.matchMedia("(pointer: coarse)").matches;
  return (
    <>
      <Button onClick={held ? choose : () => setOpen(true)}>
        <Camera size={18} aria-hidden /> <span className="max-[560px]:sr-only">Photo</span>
      </Button>
      <input
        ref={field}
        type="file"
        accept="image/jpeg,image/png,image/webp,image/heic,image/heif"
        capture="environment"
        aria-label="Photo of this operation"
        tabIndex={-1}
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) take(file);
          e.target.value = "";
        }}
      />
      {open ? (
        <CameraModal
          onClose={() => setOpen(false)}
          onKeep={take}
          others={(show) => (
            <>
              <Button onClick={choose}>Choose a file</Button>
              <StandIn onPicture={show} />
            </>
          )}
        />
      ) : null}
    </>
  );
}

/** In the demo, whose blades are nowhere: the camera that stands in for a real one. */
function StandIn({ onPicture }: { onPicture: (picture: Blob) => void }) {
  const { info } = useBuild();
  const { session } = useSession();
  const toast = useToast();
  const [busy, setBusy] = useState<Side | null>(null);
  if (!session.demo) return null;
  const look = (side: Side) => {
    setBusy(side);
    const asked = { params: { path: { build_id: info.id }, query: { side } }, parseAs: "blob" as const };
    void ask(api.GET("/api/builds/{build_id}/stand-in-photo.jpg", asked))
      .then(
        (picture) => onPicture(picture as unknown as Blob),
        (e) => toast(whatWentWrong(e)),
      )
      .finally(() => setBusy(null));
  };
  return (["right", "left"] as const).map((side) => (
    <Button key={side} disabled={busy !== null} onClick={() => look(side)}>
      {busy === side ? "Looking…" : `Made-up ${side} face`}
    </Button>
  ));
}

/** Photos of an operation, small; large when chosen. */
export function Photos({ photos }: { photos: Entry[] }) {
  const { known } = useBuild();
  const [open, setOpen] = useState<Photo | null>(null);
  const found = photos.filter((p): p is Photo => p.kind === "photo");
  if (!found.length) return null;
  return (
    <ul aria-label="Photos" className="my-1 flex flex-wrap gap-2">
      {found.map((p) => (
        <li key={p.id}>
          <button
            type="button"
            onClick={() => setOpen(p)}
            className="block overflow-hidden rounded-lg border border-line bg-plate"
          >
            <Shown
              uid={p.photo}
              small
              alt={p.caption || `Photo of ${new Date(p.at).toLocaleString()}`}
              className="h-20 w-28 object-cover"
            />
          </button>
        </li>
      ))}
      <Modal open={open !== null} onClose={() => setOpen(null)} title={open?.caption || "Photo"} huge>
        {open ? (
          <>
            <Shown uid={open.photo} alt={open.caption || "Photo"} className="mx-auto max-h-[70vh] max-w-full object-contain" />
            <p className="mt-2 text-sm text-quiet">
              {new Date(open.at).toLocaleString()}
              {known.waiting.some((w) => w.id === open.id) ? ", still on this tablet only" : ""}
            </p>
          </>
        ) : null}
      </Modal>
    </ul>
  );
}

/** From this tablet while it waits, else from the server. */
export function Shown({ uid, small, alt, className }: { uid: string; small?: boolean; alt: string; className: string }) {
  const { info } = useBuild();
  const there = `/api/builds/${info.id}/photos/${uid}/photo.jpg${small ? "?small=true" : ""}`;
  const [src, setSrc] = useState<string | null>(null);
  useEffect(() => {
    let made = "";
    let over = false;
    void shotOf(uid)
      .catch(() => undefined)
      .then((shot) => {
        if (over) return;
        made = shot ? URL.createObjectURL(shot.blob) : "";
        setSrc(made || there);
      });
    return () => {
      over = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [uid, there]);
  return src ? <img src={src} alt={alt} className={className} /> : <span className={`block ${className}`} />;
}
