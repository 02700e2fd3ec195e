import { type RefCallback, useCallback, useState } from "react";

/** The element's inner size in px, kept up to date, whenever the element comes and goes. */
export function useSize<T extends HTMLElement>(): [RefCallback<T>, { width: number; height: number }] {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const ref = useCallback((element: T | null) => {
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: Math.floor(entry.contentRect.width), height: Math.floor(entry.contentRect.height) });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [ref, size];
}

/** Sharp on fine screens, but never more than `most` pixels. */
export function sharp(px: number, most = 1600): number {
  return Math.max(16, Math.min(most, Math.round(px * Math.min(2, Math.max(1.25, window.devicePixelRatio)))));
}
