/** The cut list as a drawing: every bar to one scale, piece by piece with what the saw takes between them. Pure; SVG 1.1. */

import type { CutPlan } from "../../../api/types";

/** In the user's units and words. */
export type Words = { title: string; length: (mm: number) => string; sizes: (mm: number[]) => string };

/** Of paper, mm: A4 or Letter lying down, within its margins. */
const WIDE = 255;
const ROW = 21;
const BAR = 9;
const TEXT = 3.4;
const SCALES = [1, 2, 2.5, 4, 5, 8, 10, 20, 25, 40, 50];

/** How many times smaller than the steel: the first usual scale at which the longest bar is on the paper. */
export function scaleOf(longest: number): number {
  return SCALES.find((s) => longest / s <= WIDE) ?? Math.ceil(longest / WIDE / 10) * 10;
}

export function cutDrawing(plan: CutPlan, words: Words): string {
  const longest = Math.max(1, ...plan.bars.map((b) => b.length));
  const scale = scaleOf(longest);
  const tall = 12 + ROW * plan.bars.length;
  const rows = plan.bars.map((bar, i) => {
    const top = 12 + i * ROW;
    const head = `${bar.code}: ${bar.steel}, ${bar.form} ${words.sizes([bar.width, bar.thickness, bar.length])}`;
    let x = 0;
    const parts: string[] = [];
    bar.cuts.forEach((cut, n) => {
      const w = cut.length / scale;
      parts.push(box(x, top + 6, w, "#e4ded2"), label(x, top + 6, w, `${n + 1}`, words.length(cut.length)));
      x += w;
      // the last cut is only made where something is left
      if (n < bar.cuts.length - 1 || bar.left > plan.kerf) {
        parts.push(`<rect x="${mm(x)}" y="${mm(top + 6)}" width="${mm(plan.kerf / scale)}" height="${BAR}" fill="#000"/>`);
        x += plan.kerf / scale;
      }
    });
    const left = bar.length / scale - x;
    if (bar.left > 0.5 && left > 0) {
      parts.push(
        `<rect x="${mm(x)}" y="${mm(top + 6)}" width="${mm(left)}" height="${BAR}" fill="none" stroke="#000" stroke-width="0.2" stroke-dasharray="1 1"/>`,
      );
      parts.push(label(x, top + 6, left, bar.keep ? "keep" : "left", words.length(bar.left)));
    }
    return text(0, top + 4, head, "bold") + parts.join("");
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDE}mm" height="${mm(tall)}mm" viewBox="0 0 ${WIDE} ${mm(tall)}" font-family="sans-serif">`,
    `<title>${escaped(words.title)}</title>`,
    text(0, 5, `${words.title}, 1 : ${scale}. The saw takes ${words.length(plan.kerf)} at every cut.`),
    ...rows,
    "</svg>",
  ].join("\n");
}

const mm = (v: number) => String(Math.round(v * 1000) / 1000);

function box(x: number, y: number, w: number, fill: string): string {
  return `<rect x="${mm(x)}" y="${mm(y)}" width="${mm(w)}" height="${BAR}" fill="${fill}" stroke="#000" stroke-width="0.2"/>`;
}

function text(x: number, y: number, said: string, weight = "normal"): string {
  return `<text x="${mm(x)}" y="${mm(y)}" font-size="${TEXT}" font-weight="${weight}">${escaped(said)}</text>`;
}

/** Number and length in the piece, as far as they have room. */
function label(x: number, y: number, w: number, name: string, long: string): string {
  const room = (said: string) => said.length * TEXT * 0.56 < w - 1;
  const both = `${name}: ${long}`;
  const said = room(both) ? both : room(name) ? name : "";
  return said ? text(x + 0.8, y + BAR / 2 + 1.2, said) : "";
}

function escaped(said: string): string {
  return said.replace(/[&<>"]/g, (c) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[c] ?? c);
}
