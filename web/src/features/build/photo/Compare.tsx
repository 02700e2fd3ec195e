import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { post, whatWentWrong } from "../../../api/client";
import type { Side } from "../../../api/types";
import { Notice, Segments, Toggle } from "../../../ui";

export type Marked = { px: number; py: number; x: number; y: number };
type How = "apart" | "split" | "blink" | "difference";
const HOW: { value: How; label: string }[] = [
  { value: "apart", label: "both" },
  { value: "split", label: "split" },
  { value: "blink", label: "blink" },
  { value: "difference", label: "difference" },
];
const BLINK_MS = 700;

/** A picture that is posted for, as an address to show it by. */
function usePosted(path: string, body: object) {
  return useQuery({
    queryKey: ["posted", path, body],
    queryFn: async ({ signal }) => {
      const blob = await (await post(path, body, signal)).blob();
      return await new Promise<string>((done, failed) => {
        const reader = new FileReader();
        reader.onload = () => done(String(reader.result));
        reader.onerror = () => failed(reader.error);
        reader.readAsDataURL(blob);
      });
    },
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    placeholderData: (old) => old,
    retry: false,
  });
}

/** The photo laid on the blade's own frame, and the prediction to the same scale. */
export function Compare({
  address,
  build,
  marks,
  side,
  changes,
  shape,
}: {
  address: string;
  build: number;
  marks: Marked[];
  side: Side;
  changes: Record<string, number>;
  shape: number;
}) {
  const [how, setHow] = useState<How>("apart");
  const [at, setAt] = useState(50);
  const [even, setEven] = useState(false);
  const [on, setOn] = useState(true);
  const photo = usePosted(`${address}/laid`, { marks, side, even });
  const made = usePosted(`/api/builds/${build}/made-face`, { side, changes });
  useEffect(() => {
    if (how !== "blink") return setOn(true);
    const timer = window.setInterval(() => setOn((was) => !was), BLINK_MS);
    return () => window.clearInterval(timer);
  }, [how]);
  const wrong = photo.error ?? made.error;
  if (wrong) return <Notice tone="stop">{whatWentWrong(wrong)}</Notice>;
  const frame = { aspectRatio: String(shape) };
  const whose = Object.keys(changes).length ? "as the photo tells" : "as it should be";
  const taken = photo.data ? <img src={photo.data} alt={`${side} face, as it is`} className="block w-full" /> : null;
  const drawn = made.data ? <img src={made.data} alt={`${side} face, ${whose}`} className="block w-full" /> : null;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <div className="w-[30rem] max-w-full">
          <Segments<How> snug label="How to compare" value={how} options={HOW} onChange={setHow} />
        </div>
        <Toggle label="Even out the light" checked={even} onChange={setEven} />
      </div>
      <div className="rounded-xl bg-plate p-4 text-plate-quiet">
        {!taken || !drawn ? <p className="animate-pulse p-8 text-center">laying it flat…</p> : null}
        {taken && drawn && how === "apart" ? (
          <>
            <figure className="mb-4">
              {taken}
              <figcaption className="mt-1 text-sm">photo</figcaption>
            </figure>
            <figure>
              {drawn}
              <figcaption className="mt-1 text-sm">{whose}</figcaption>
            </figure>
          </>
        ) : null}
        {taken && drawn && how !== "apart" ? (
          <div style={frame} className="relative isolate w-full">
            <div className="absolute inset-0">{drawn}</div>
            <div
              className="absolute inset-0"
              style={
                how === "split"
                  ? { clipPath: `inset(0 ${100 - at}% 0 0)` }
                  : how === "difference"
                    ? { mixBlendMode: "difference" }
                    : { visibility: on ? "visible" : "hidden" }
              }
            >
              {taken}
            </div>
            {how === "split" ? (
              <span aria-hidden className="absolute inset-y-0 w-0.5 bg-[#e3b256]" style={{ left: `${at}%` }} />
            ) : null}
          </div>
        ) : null}
        {how === "split" ? (
          <label className="mt-3 block">
            <span className="flex justify-between text-sm">
              <span>photo</span>
              <span>{whose}</span>
            </span>
            <input
              type="range"
              min={0}
              max={100}
              value={at}
              aria-label="Where photo and prediction meet"
              className="w-full"
              onChange={(e) => setAt(Number(e.target.value))}
            />
          </label>
        ) : null}
        {how === "blink" ? <p className="mt-2 text-sm">{on ? "photo" : whose}</p> : null}
        {how === "difference" ? <p className="mt-2 text-sm">black: alike; bright: photo and prediction differ</p> : null}
      </div>
    </>
  );
}
