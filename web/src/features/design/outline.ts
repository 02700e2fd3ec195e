/** An outline drawn point by point: two curves, heel to tip, that are bent smoothly between handles. Pure. */

export type Curve = number[][];
export type DrawnOutline = { edge: Curve; spine: Curve };
export type Rim = "edge" | "spine";

const POINTS = 121;
export const HANDLES = 9;

/** The curve's y at x: straight between its points. */
export function heightAt(curve: Curve, x: number): number {
  for (let i = 1; i < curve.length; i++) {
    const [x0 = 0, y0 = 0] = curve[i - 1] ?? [];
    const [x1 = 0, y1 = 0] = curve[i] ?? [];
    if (x <= x1) return y0 + (Math.max(0, x - x0) / Math.max(1e-9, x1 - x0)) * (y1 - y0);
  }
  return curve.at(-1)?.[1] ?? 0;
}

export function lengthOf(o: DrawnOutline): number {
  return o.edge.at(-1)?.[0] ?? 0;
}

/** Points close enough to bend smoothly, closer towards the tip, where curves are tightest. */
export function dense(curve: Curve): Curve {
  const length = curve.at(-1)?.[0] ?? 0;
  return Array.from({ length: POINTS }, (_, i) => {
    const v = i / (POINTS - 1);
    const x = i === POINTS - 1 ? length : round(length * (0.5 * v + 0.5 * (1 - (1 - v) ** 2)));
    return [x, round(heightAt(curve, x))];
  });
}

/** Where the handles sit: from the heel to the tip, closer towards the tip. */
export function handles(o: DrawnOutline, rim: Rim): [number, number][] {
  const length = lengthOf(o);
  return Array.from({ length: HANDLES }, (_, i) => {
    const v = i / (HANDLES - 1);
    const x = length * (0.6 * v + 0.4 * (1 - (1 - v) ** 2));
    return [x, heightAt(o[rim], x)];
  });
}

/** The outline with one handle moved to height y; the curve follows up to the handles beside it. The tip belongs to both curves. */
export function bent(o: DrawnOutline, rim: Rim, handle: number, y: number): DrawnOutline {
  const all = handles(o, rim);
  const at = all[handle];
  if (!at) return o;
  const by = y - at[1];
  const before = all[handle - 1]?.[0] ?? at[0];
  const after = all[handle + 1]?.[0] ?? at[0];
  const share = (x: number) => {
    const reach = x < at[0] ? at[0] - before : after - at[0];
    const away = Math.abs(x - at[0]);
    if (reach <= 0) return away < 1e-9 ? 1 : 0;
    return away >= reach ? 0 : 0.5 * (1 + Math.cos((Math.PI * away) / reach));
  };
  const moved = (curve: Curve) => dense(curve).map(([x = 0, h = 0]) => [x, round(h + by * share(x))]);
  const tip = handle === HANDLES - 1;
  return { edge: rim === "edge" || tip ? moved(o.edge) : o.edge, spine: rim === "spine" || tip ? moved(o.spine) : o.spine };
}

/** The outline at another length. */
export function stretched(o: DrawnOutline, length: number): DrawnOutline {
  const by = length / Math.max(1e-9, lengthOf(o));
  const each = (curve: Curve) => curve.map(([x = 0, y = 0]) => [round(x * by), y]);
  return { edge: each(o.edge), spine: each(o.spine) };
}

/** What is wrong with it, in words; empty when it can be made. */
export function faultOf(o: DrawnOutline): string {
  const length = lengthOf(o);
  for (let i = 1; i < 60; i++) {
    const x = (length * i) / 60;
    if (heightAt(o.spine, x) - heightAt(o.edge, x) <= 0.05) return `the spine meets the edge ${Math.round(x)} mm from the heel`;
  }
  return "";
}

function round(v: number): number {
  return Math.round(v * 1e4) / 1e4;
}
