/** The words of the trade as this program uses them, each with a picture of ours. Pure. */

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

const w = (
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

export const WORDS: Word[] = [
  // the bar
  w(
    "pile",
    "Pile",
    "Pieces laid upon one another before they are welded: the bar's beginning. Its length and thickness are those of the cut pieces.",
    "pile",
    ["piles", "stack", "stacked"],
    ["layer", "weld"],
  ),
  w(
    "layer",
    "Layer",
    "One steel between two welds. Layers get thinner as the bar is drawn and as it is folded or piled again; the finest 2 % on the blade are told.",
    "layers",
    ["layers", "pairs of layers"],
    ["restack", "skin"],
  ),
  w(
    "weld",
    "Forge weld",
    "Two clean faces at welding heat become one piece under the hammer or press. What only lies together shows as a dark line and opens later.",
    "weld",
    ["weld", "welds", "welded", "welding"],
    ["skin", "flux"],
  ),
  w(
    "flux",
    "Flux",
    "Melts the scale away from the faces that are to weld, and keeps air from them. It burns skin and eyes: stand aside of the joint at the first blow.",
    "flux",
  ),
  w(
    "scale",
    "Scale",
    "Steel that the fire turned to oxide and that falls off: lost for good. More in air, with time and with heat.",
    "scale",
    ["scaling"],
    ["loss", "skin"],
  ),
  w(
    "skin",
    "Bright skin",
    "Carbon burns out of a face before it is welded: a thin pale line is left in the etched pattern.",
    "skin",
    ["skins"],
    ["decarb"],
  ),
  w(
    "decarb",
    "Carbon lost at the surface",
    "Near the air carbon burns away first: the outside hardens less, so some tenths of a millimetre are ground off.",
    "carbon",
    ["decarburised", "carbon-poor", "decarburisation"],
    ["skin"],
  ),
  w(
    "draw",
    "Draw out",
    "Make the bar longer and thinner. Its volume stays but for the scale: half the section is twice the length.",
    "draw",
    ["drawn", "drawing", "drawn out"],
    ["passes", "upset"],
  ),
  w(
    "passes",
    "Passes",
    "The sizes one goes through in drawing, with the stop block for each and when to turn the bar.",
    "passes",
    ["pass", "stop block", "stop blocks"],
  ),
  w("upset", "Upset", "Make the bar shorter and thicker by blows on its end.", "upset"),
  w(
    "fold",
    "Fold",
    "Cut nearly through, bent back upon itself and welded: twice the layers, the outer face in the middle.",
    "fold",
    ["folds", "folded"],
    ["restack"],
  ),
  w(
    "restack",
    "Pile again",
    "Cut into pieces and pile those: the number of layers is multiplied by the number of pieces.",
    { face: "fine_restack" },
    ["restack", "restacked", "cut and piled again in"],
    ["kerf"],
  ),
  w("kerf", "Kerf", "What the saw turns into chips at each cut.", "kerf", [], ["loss"]),
  w(
    "twist",
    "Twist",
    "A square or round bar turned about its length. Near the skin the layers slant; ground to its middle they show stars.",
    { face: "bold_twist" },
    ["twisted", "twists", "turns", "turns along the blade", "hand"],
    ["ground_off", "phase"],
  ),
  w("phase", "Phase of a twist", "Which way the layers lie where the twist begins: it moves the pattern along the blade.", {
    face: "opposed_twist",
  }),
  w(
    "section",
    "Section",
    "The shape of a bar cut across: square, octagon, round. And a picture of the steel cut through anywhere.",
    "section",
    ["sections", "octagon", "square", "round"],
  ),
  w(
    "end_grain",
    "End grain",
    "What is seen on the sawn end of a bar: the pattern before it is laid along the blade.",
    { face: "four_way" },
    ["grain"],
    ["tiles"],
  ),
  w("ladder", "Ladder", "Grooves cut across the bar and forged flat: each brings up a rung.", { face: "ladder" }, [
    "rungs",
    "rung",
    "grooves",
    "groove",
    "from rung to rung",
  ]),
  w("dimples", "Dimples", "Hollows drilled or pressed in and forged flat: rings like raindrops.", { face: "dimple" }, [
    "dimple",
    "hollows",
    "hollow",
    "raindrops",
  ]),
  w(
    "feather",
    "Feather",
    "A tall pile split down its middle by a blunt wedge, which drags the layers along, and welded again.",
    { face: "feather" },
    ["split", "dragged along"],
  ),
  w(
    "tiles",
    "Tiles",
    "A bar sliced on the slant and laid down as tiles, so that its end grain runs along the face.",
    { face: "tiled" },
    ["tile", "tiled"],
    ["end_grain"],
  ),
  w("mosaic", "Mosaic", "Pieces of bars turned and joined so that their end grain makes a figure.", { face: "four_way" }, [
    "four-way",
  ]),
  w(
    "bias",
    "Forged on the bias",
    "Squared again on its corners: the layers run from corner to corner and come out in tongues and W's.",
    { face: "bias_w" },
    ["bias-forged"],
  ),
  w(
    "canister",
    "Canister",
    "A closed can of powder and pieces, pressed solid at welding heat. What is in it cannot be looked at: let the air out, or it bursts.",
    { face: "canister" },
    ["can", "powder", "rods"],
  ),
  w("plug", "Plug", "A round let into a hole of another bar and welded in.", { face: "plug" }, ["plug is wide"]),
  w(
    "uneven",
    "Uneven hand",
    "How far blows lift and sink the layers (mm), over what length. Ground flat through the waves it makes islands and bays.",
    { face: "hand_forged" },
    ["how uneven the hand", "wavelength", "a dent is long"],
  ),
  w("ground_off", "Ground off", "How deep the finished face lies in the bar: a pattern changes with every tenth.", "ground", [
    "grind off",
    "bar before grinding",
    "ground",
  ]),
  // laminates
  w(
    "core",
    "Core",
    "The hard steel in the middle of a laminate, which becomes the edge.",
    { face: "three_layer" },
    ["core share", "core off centre", "core thicker"],
    ["clad", "core_line"],
  ),
  w(
    "clad",
    "Clad",
    "The softer sides of a laminate: they carry the pattern and keep the blade from breaking.",
    { face: "clad_core" },
    ["cladding", "clad flows more", "laminate", "jacket"],
    ["core"],
  ),
  w(
    "core_line",
    "Core line",
    "Where core and clad meet on the ground face. Even and alike on both sides it is what a laminate is judged by.",
    "core_line",
    ["line", "core lines"],
    ["test_etch", "band"],
  ),
  w(
    "band",
    "Band",
    "How high the core line may lie: between its edges the blade is of first grade.",
    "band",
    ["wanted", "first grade"],
    ["core_line"],
  ),
  w(
    "errors",
    "Usual errors",
    "How far off your work usually is, as one standard deviation: two blades in three are within it.",
    "bell",
    ["tolerance", "tolerances", "errors"],
    ["sure"],
  ),
  w("dip", "Dip and bow", "The layers lie to one side of the grind: along the whole blade (dip) or in its middle (bow).", "dip", [
    "bow",
  ]),
  w("cup", "Cup", "The middle of the height bulges to one side.", "cup"),
  w(
    "test_etch",
    "Test etch",
    "A short etch before the blade is done, to see where the core line lies while it still can be moved.",
    "core_line",
    ["readings"],
    ["core_line"],
  ),
  // the blade
  w(
    "edge",
    "Edge",
    "Where both faces meet. Its thickness before sharpening and its angle decide how it cuts and whether it lasts.",
    "edge",
    ["edge thickness", "edge left thicker", "edge thickness before sharpening"],
    ["edge_angle"],
  ),
  w("edge_angle", "Edge angle", "Between both sides of the edge. Small cuts well and rolls or chips sooner.", "edge_angle", [
    "angle of the edge",
  ]),
  w(
    "spine",
    "Spine",
    "The back of the blade. Its thickness at heel, middle and tip is the distal taper.",
    "spine",
    ["spine thickness"],
    ["taper"],
  ),
  w("taper", "Distal taper", "The spine gets thinner towards the tip: it takes weight from the point.", "taper", ["distal"]),
  w("heel", "Heel", "The end of the edge at the handle: lengths along the blade are measured from it.", "heel"),
  w("belly", "Belly", "Where the edge curves up to the tip.", "belly"),
  w(
    "bevel",
    "Bevel",
    "The slope ground from spine or bevel line to the edge.",
    "bevel",
    ["bevels", "bevel height", "flat grind"],
    ["plunge"],
  ),
  w("plunge", "Plunge", "Where the bevel begins at the handle.", "plunge"),
  w("ricasso", "Ricasso", "The stretch before the edge begins that is left as thick as the spine.", "ricasso"),
  w("swedge", "Swedge", "A bevel on the back near the tip, not sharpened.", "swedge"),
  w("fuller", "Fuller", "A groove along the blade: lighter, and deeper into the pattern.", "fuller"),
  w("tang", "Tang", "What goes into the handle.", "tang"),
  w("balance", "Balance", "Where blade, guard and handle hold level on a finger.", "balance", ["centre of gravity"]),
  w("guard", "Guard", "Keeps the hand from the edge; bolster and ferrule close the handle there.", "guard", [
    "bolster",
    "bolsters",
    "ferrule",
    "pommel",
    "pins",
    "pin",
  ]),
  w(
    "sheath",
    "Sheath",
    "Leather folded about the blade, with a welt in its seam so that the edge does not cut the stitches.",
    "sheath",
    ["welt", "leather"],
  ),
  // heat
  w(
    "forging_heat",
    "Forging heat",
    "Between too cold, where a weld opens, and too hot, where grain grows or the steel burns. Each steel has its own; a pile has what all share.",
    "window",
    ["forge", "welding heat", "forging"],
  ),
  w("heats", "Heats", "How often the bar goes back into the fire for a step.", "soak", ["heat", "reheats"]),
  w("soak", "Soak", "Time at heat until the middle is as hot as the outside.", "soak", ["soaking", "minutes at heat"]),
  w(
    "normalise",
    "Normalise",
    "Heated through and cooled in air, three times and each a little less hot: grain grown in the forge becomes fine again.",
    "cycles",
    ["normalising", "grain refinement"],
  ),
  w(
    "critical",
    "Critical temperature",
    "Where steel changes inside and a magnet lets go (770 °C), a little before it can be hardened.",
    "critical",
    ["austenite", "magnet"],
  ),
  w(
    "quench",
    "Quench",
    "Cooled so fast that the steel cannot change back: hard and brittle. Hot oil burns: a lid at hand, no water near.",
    "quench",
    ["quenched", "quenching", "oil"],
    ["temper"],
  ),
  w(
    "temper",
    "Temper",
    "Warmed to some 150 to 300 °C after the quench: a little less hard, far tougher.",
    "temper",
    ["tempering", "tempered"],
    ["run_colour"],
  ),
  w(
    "run_colour",
    "Run colours",
    "Straw to blue on bright steel as it is warmed: they tell the heat of the skin, and how long it lasted.",
    "colours",
    ["straw", "heat colour"],
  ),
  w(
    "hardness",
    "Hardness",
    "How little a ball or cone presses in, in HRC. A tester is sure to about one and a half of them.",
    "hardness",
    ["hrc"],
  ),
  w(
    "carbon_moves",
    "Carbon between layers",
    "At welding heat carbon moves from layer to layer; thin ones share it within minutes, nickel hardly moves.",
    "diffuse",
    ["carbon"],
  ),
  // stock
  w(
    "loss",
    "Loss",
    "From the steel that was cut to the blade: scale, kerfs, ends, grinding. What is left is the yield.",
    "loss",
    ["losses", "lost of the steel", "yield", "lost"],
  ),
  w(
    "reserve",
    "Reserve",
    "What a pile is longer than it must be, so that one comes up short only so often.",
    "reserve",
    ["short"],
    ["sure"],
  ),
  w("offcut", "Offcut", "What is left of a bar and still good for something: guard, bolster, the next pile.", "kerf", [
    "offcuts",
  ]),
  w("rack", "Rack", "The bars a shop owns. Nothing in it is changed, only moved: bought, taken, put back, counted.", "pile"),
  // finish
  w("grit", "Grit", "Size of the grains of belt or paper. Each must take out the scratches of the one before.", "grit", [
    "grits",
    "belts",
    "paper",
    "sanding",
  ]),
  w(
    "etch",
    "Etch",
    "Acid eats one steel faster than another and leaves it darker. Goggles and gloves; acid into water, never water into acid.",
    { face: "opposed_twist" },
    ["etching", "etched", "bath", "baths"],
    ["relief"],
  ),
  w(
    "relief",
    "Relief",
    "How much deeper one steel was etched than its neighbour: some thousandths of a millimetre that a nail feels.",
    "relief",
    ["depth of the etch"],
    ["undercut"],
  ),
  w("undercut", "Undercut", "Acid eats sideways as far as down: layers finer than twice the depth lose their edges.", "undercut"),
  w(
    "coupon",
    "Coupon",
    "A scrap of the same steels etched beside the blade and measured: it tells how fast this bath bites.",
    "coupon",
    ["coupons"],
  ),
  w("resist", "Resist", "What keeps the acid off: lacquer, wax, tape.", "resist", ["mask", "masks"]),
  w("neutralise", "Neutralise", "Soda takes what is left of the acid; else it goes on under the handle.", "bath", ["soda"]),
  // how sure
  w(
    "sure",
    "How sure",
    "A figure is as wide as what it rests on. Ours are marked indicative where a shop's own would be better; a verdict never turns on less than its width.",
    "bell",
    ["indicative", "standard error", "chance", "range"],
  ),
  w(
    "learned",
    "Yours, learned",
    "From three builds on the log says how your own hours, heats and lengths differ from ours. It is offered, never put in by itself.",
    "learned",
    ["factor", "shop's own"],
  ),
  w(
    "look",
    "Look",
    "What a pattern is like, in numbers: how wide its bands are, which way they run, how regular it is.",
    { face: "tiled" },
    ["looks"],
  ),
];

const FORMS: [string, Word][] = WORDS.flatMap((word) =>
  [word.term.toLowerCase(), ...(word.also ?? [])].map((form): [string, Word] => [form, word]),
).sort((a, b) => b[0].length - a[0].length);

const bounded = (text: string, form: string) => {
  const at = ` ${text.toLowerCase().replace(/[^\p{L}\p{N}'-]+/gu, " ")} `;
  return at.includes(` ${form.replace(/[^\p{L}\p{N}'-]+/gu, " ").trim()} `);
};

/** The words that a label speaks of, the longest form first, each once. */
export function wordsIn(label: string): Word[] {
  const found: Word[] = [];
  for (const [form, word] of FORMS) if (!found.includes(word) && bounded(label, form)) found.push(word);
  return found.slice(0, 4);
}

/** Those that are called so or speak of it; all when nothing is asked. */
export function searched(asked: string): Word[] {
  const parts = asked.toLowerCase().split(/\s+/).filter(Boolean);
  const text = (word: Word) => `${word.term} ${(word.also ?? []).join(" ")} ${word.says}`.toLowerCase();
  const score = (word: Word) => (word.term.toLowerCase().startsWith(parts[0] ?? "") ? 0 : 1);
  return WORDS.filter((word) => parts.every((p) => text(word).includes(p))).sort(
    (a, b) => score(a) - score(b) || a.term.localeCompare(b.term),
  );
}

export const wordOf = (key: string) => WORDS.find((word) => word.key === key);
