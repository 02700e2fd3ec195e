import { Camera, RefreshCcw } from "lucide-react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Button, Modal, Notice } from "../../ui";
import { cameraHere, closed, next, opened, taken, whyNoCamera } from "./camera";

type Shot = { blob: Blob; url: string };

/** A picture taken here: seen before it counts. `others`: further ways to come to one. */
export function CameraModal({
  onClose,
  onKeep,
  others,
}: {
  onClose: () => void;
  onKeep: (picture: Blob) => void;
  others?: (show: (picture: Blob) => void) => ReactNode;
}) {
  const video = useRef<HTMLVideoElement>(null);
  const [device, setDevice] = useState<string>();
  const [another, setAnother] = useState<string>();
  const [live, setLive] = useState(false);
  const [wrong, setWrong] = useState(
    cameraHere() ? "" : "This page cannot use a camera (a browser lets only pages that came by https). Choose a file instead.",
  );
  const [shot, setShot] = useState<Shot | null>(null);

  useEffect(() => {
    if (!cameraHere()) return;
    let over = false;
    let stream: MediaStream | null = null;
    void opened(device)
      .then(async (s) => {
        stream = s;
        if (over) return closed(s);
        if (video.current) video.current.srcObject = s;
        setWrong("");
        setAnother(next(await navigator.mediaDevices.enumerateDevices(), s.getVideoTracks()[0]?.getSettings().deviceId));
      })
      .catch((e) => !over && setWrong(whyNoCamera(e)));
    return () => {
      over = true;
      setLive(false);
      if (stream) closed(stream);
    };
  }, [device]);
  useEffect(() => () => URL.revokeObjectURL(shot?.url ?? ""), [shot]);

  const show = (blob: Blob) => setShot({ blob, url: URL.createObjectURL(blob) });
  const shoot = () => {
    if (video.current) void taken(video.current).then(show, (e) => setWrong(whyNoCamera(e)));
  };
  return (
    <Modal open onClose={onClose} title="Photo" wide>
      <div className="flex flex-col gap-3">
        <div className="grid aspect-video w-full place-items-center overflow-hidden rounded-xl bg-plate text-plate-ink">
          {shot ? <img src={shot.url} alt="What was taken" className="max-h-full max-w-full object-contain" /> : null}
          {wrong && !shot ? <p className="max-w-prose px-6 text-center">{wrong}</p> : null}
          <video
            ref={video}
            autoPlay
            playsInline
            muted
            onPlaying={() => setLive(true)}
            aria-label="What the camera sees"
            className={shot || wrong ? "hidden" : "max-h-full max-w-full"}
          />
        </div>
        {shot ? null : (
          <Notice tone="note">Square on, the whole of it in sight, light from one side and no lamp mirrored in the steel.</Notice>
        )}
        <div className="flex flex-wrap items-center gap-2">
          {shot ? (
            <>
              <Button kind="main" onClick={() => onKeep(shot.blob)}>
                Keep it
              </Button>
              <Button onClick={() => setShot(null)}>Take another</Button>
            </>
          ) : (
            <>
              <Button kind="main" disabled={!live || !!wrong} onClick={shoot}>
                <Camera size={18} aria-hidden /> Take it
              </Button>
              {another ? (
                <Button onClick={() => setDevice(another)}>
                  <RefreshCcw size={18} aria-hidden /> The other camera
                </Button>
              ) : null}
              {others?.(show)}
            </>
          )}
        </div>
      </div>
    </Modal>
  );
}
