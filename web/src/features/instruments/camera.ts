/** The browser's own camera, where it has one; nothing goes further than this page until a picture is kept. */

const SHARP = 0.92;

/** Whether this page may ask for a camera at all: plain http from another machine may not. */
export function cameraHere(): boolean {
  return !!navigator.mediaDevices?.getUserMedia;
}

/** What came of asking, in words; a camera that is there may still be refused or in use. */
export function whyNoCamera(e: unknown): string {
  const name = e instanceof Error ? e.name : "";
  if (name === "NotAllowedError") return "This page may not use the camera: allow it in the browser's settings for this site.";
  if (name === "NotFoundError" || name === "OverconstrainedError") return "There is no camera here.";
  if (name === "NotReadableError") return "Another program has the camera: close it and try again.";
  return "The camera does not answer.";
}

/** The one asked for, else the one that looks away from whoever holds it. */
export async function opened(device?: string): Promise<MediaStream> {
  const size = { width: { ideal: 2560 }, height: { ideal: 1440 } };
  const which = device ? { deviceId: { exact: device } } : { facingMode: { ideal: "environment" } };
  return navigator.mediaDevices.getUserMedia({ video: { ...size, ...which }, audio: false });
}

export function closed(stream: MediaStream): void {
  for (const track of stream.getTracks()) track.stop();
}

/** The one after the one in use, of all there are; undefined where there is no other. */
export function next(devices: { deviceId: string; kind: string }[], now: string | undefined): string | undefined {
  const ids = devices.filter((d) => d.kind === "videoinput").map((d) => d.deviceId);
  return ids.length > 1 ? ids[(ids.indexOf(now ?? "") + 1) % ids.length] : undefined;
}

/** What the camera sees now, as large as it sees it. */
export async function taken(video: HTMLVideoElement): Promise<Blob> {
  const canvas = document.createElement("canvas");
  canvas.width = video.videoWidth;
  canvas.height = video.videoHeight;
  canvas.getContext("2d")?.drawImage(video, 0, 0);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", SHARP));
  if (!blob) throw new Error("no picture");
  return blob;
}
