/** What smiths call otherwise than we do, and a search that understands both. Pure. */

/** Names as they are typed, and words of ours, any of which is meant. */
const CALLED: [string[], string[]][] = [
  [
    ["san mai", "sanmai", "three layer"],
    ["three-layer", "core"],
  ],
  [
    ["go mai", "gomai", "five layer"],
    ["nickel shims", "core"],
  ],
  [["warikomi", "wari-komi"], ["slot"]],
  [["kobuse"], ["jacket"]],
  [["laminated"], ["laminate", "core"]],
  [
    ["billet", "stack"],
    ["pile", "bar"],
  ],
  [
    ["damascus", "pattern weld", "pattern-weld"],
    ["layer", "laminate", "twist", "mosaic", "ladder", "feather"],
  ],
  [["mosaic"], ["four-way", "tiled"]],
  [["raindrop", "rain drop"], ["dimple"]],
  [
    ["kiss block", "kissing block"],
    ["stop block", "pass"],
  ],
  [
    ["canola", "rapeseed", "peanut"],
    ["quench", "oil"],
  ],
  [
    ["core exposure", "hagane"],
    ["core line", "core"],
  ],
  [["jigane"], ["clad"]],
  [["heat treat"], ["harden", "quench", "temper"]],
  [["ferric", "etchant"], ["etch"]],
  [["decarb", "decarburisation", "decarburization"], ["skin"]],
  [
    ["delam", "delamination"],
    ["weld", "gap", "shut"],
  ],
  [["cannister"], ["canister"]],
];
/** So many letters of a name before it is taken for it. */
const ENOUGH = 4;

/** Words of ours for what was typed, if it is a name that smiths use for them, whole or nearly; empty when it is none. */
export function ourWords(asked: string): string[] {
  const said = asked.toLowerCase().replace(/\s+/g, " ").trim();
  if (said.length < ENOUGH) return [];
  const meant = (name: string) => name.startsWith(said) || said.includes(name);
  return [...new Set(CALLED.filter(([names]) => names.some(meant)).flatMap(([, ours]) => ours))];
}

/** Whether a text has all that was typed, or any of our words for it. */
export function fits(text: string, asked: string): boolean {
  const lower = text.toLowerCase();
  const parts = asked.toLowerCase().split(/\s+/).filter(Boolean);
  return parts.every((p) => lower.includes(p)) || ourWords(asked).some((word) => lower.includes(word));
}
