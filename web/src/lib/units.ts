/** Lengths as smiths write and read them. The application keeps mm; only here are other units known. */

export type LengthUnit = "mm" | "inch" | "fraction" | "thou";

export const MM_PER_INCH = 25.4;

type Parsed = { ok: true; value: number } | { ok: false; why: string };

const NUMBER = String.raw`(?:\d+(?:[.,]\d*)?|[.,]\d+)`;
const FRACTION = String.raw`(?:(\d+)\s*[- ]\s*)?(\d+)\s*/\s*(\d+)`;
const UNIT = `(mm|cm|m|in|inch|inches|"|”|''|thou|mil)?`;
const PLAIN_RE = new RegExp(`^([-+]?)(${NUMBER})\\s*${UNIT}$`, "i");
const FRACTION_RE = new RegExp(`^([-+]?)${FRACTION}\\s*${UNIT}$`, "i");

function scaleOf(unit: string | undefined, preferred: LengthUnit, fraction: boolean): number {
  switch (unit?.toLowerCase()) {
    case "mm":
      return 1;
    case "cm":
      return 10;
    case "m":
      return 1000;
    case "in":
    case "inch":
    case "inches":
    case '"':
    case "”":
    case "''":
      return MM_PER_INCH;
    case "thou":
    case "mil":
      return MM_PER_INCH / 1000;
    default:
      // a bare fraction is inches in every shop
      if (fraction) return MM_PER_INCH;
      if (preferred === "mm") return 1;
      return preferred === "thou" ? MM_PER_INCH / 1000 : MM_PER_INCH;
  }
}

/** What was typed, in mm: 3/8, 1 1/2", 0.250", 6.35mm, 25 thou; bare numbers in the preferred unit. */
export function parseLength(text: string, preferred: LengthUnit): Parsed {
  const typed = text.trim();
  if (!typed) return { ok: false, why: 'Type a length, like 6, 3/8 or 0.25"' };
  const fraction = FRACTION_RE.exec(typed);
  if (fraction) {
    const [, sign, whole, top, bottom, unit] = fraction;
    if (Number(bottom) === 0) return { ok: false, why: "A fraction needs something under the line" };
    const value = Number(whole ?? 0) + Number(top) / Number(bottom);
    return { ok: true, value: (sign === "-" ? -value : value) * scaleOf(unit, preferred, true) };
  }
  const plain = PLAIN_RE.exec(typed);
  if (!plain) return { ok: false, why: `“${typed.slice(0, 20)}” is not a length: try 6mm, 3/8, 0.25" or 25 thou` };
  const [, sign, number, unit] = plain;
  const value = Number((number ?? "").replace(",", "."));
  return { ok: true, value: (sign === "-" ? -value : value) * scaleOf(unit, preferred, false) };
}

/** A share as typed: 10, 10 % or 0.1 of the whole written as 10 %. */
export function parseShare(text: string): Parsed {
  const typed = text.trim().replace(",", ".");
  const found = /^([-+]?(?:\d+(?:\.\d*)?|\.\d+))\s*%?$/.exec(typed);
  if (!found) return { ok: false, why: `“${text.trim().slice(0, 20)}” is not a share: try 10 or 10 %` };
  return { ok: true, value: Number(found[1]) / 100 };
}

/** A plain number (turns, degrees, pieces). */
export function parseNumber(text: string): Parsed {
  const typed = text
    .trim()
    .replace(",", ".")
    .replace(/\s*(°|deg|turns?)$/i, "");
  if (!/^[-+]?(\d+(\.\d*)?|\.\d+)$/.test(typed)) return { ok: false, why: `“${text.trim().slice(0, 20)}” is not a number` };
  return { ok: true, value: Number(typed) };
}

function trimmed(value: number, digits: number): string {
  const text = value.toFixed(digits);
  const short = text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  return short === "-0" ? "0" : short;
}

/** Enough digits for the bench: hundredths of a mm under 10, tenths under 100. */
function mmDigits(mm: number): number {
  const size = Math.abs(mm);
  if (size === 0) return 0;
  if (size < 0.1) return 3;
  return size < 10 ? 2 : size < 200 ? 1 : 0;
}

/** Enough digits of an inch: a tenth of a thou under 0.1 in. */
function inchDigits(mm: number): number {
  const size = Math.abs(mm);
  return size < 2.54 ? 4 : size < 254 ? 3 : 2;
}

/** In 64ths of an inch, or null where that is not the number itself (within a tenth of what a field tells apart). */
function asFraction(mm: number): string | null {
  const inches = mm / MM_PER_INCH;
  const sixtyFourths = Math.round(Math.abs(inches) * 64);
  const near = 0.1 * 10 ** -mmDigits(mm);
  if (Math.abs((sixtyFourths / 64) * MM_PER_INCH - Math.abs(mm)) > near + 1e-9) return null;
  const sign = inches < 0 && sixtyFourths ? "-" : "";
  const whole = Math.floor(sixtyFourths / 64);
  let top = sixtyFourths % 64;
  if (!top) return `${sign}${whole}`;
  let bottom = 64;
  while (top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  return `${sign}${whole ? `${whole} ` : ""}${top}/${bottom}`;
}

/** mm as text in the preferred unit, without the unit. */
export function lengthText(mm: number, unit: LengthUnit): string {
  switch (unit) {
    case "mm":
      return trimmed(mm, mmDigits(mm));
    case "inch":
      return trimmed(mm / MM_PER_INCH, inchDigits(mm));
    case "fraction":
      return asFraction(mm) ?? trimmed(mm / MM_PER_INCH, inchDigits(mm));
    case "thou":
      return trimmed((mm / MM_PER_INCH) * 1000, Math.abs(mm) < 2.54 ? 1 : 0);
  }
}

export const UNIT_MARK: Record<LengthUnit, string> = { mm: "mm", inch: "in", fraction: "in", thou: "thou" };

export function length(mm: number, unit: LengthUnit): string {
  return `${lengthText(mm, unit)} ${UNIT_MARK[unit]}`;
}

/** A thickness of what is there: never told as none. */
export function thickness(mm: number, unit: LengthUnit): string {
  const least = unit === "mm" ? 0.001 : 0.0001 * MM_PER_INCH;
  return mm > 0 && mm < least ? `under ${lengthText(least, unit)}\u00a0${UNIT_MARK[unit]}` : length(mm, unit);
}

/** Thin skins one under another, all to the same place: hundredths of a mm, thousandths of an inch. */
export function hair(mm: number, unit: LengthUnit): string {
  return unit === "mm" ? mm.toFixed(2) : unit === "thou" ? (mm / 0.0254).toFixed(0) : (mm / MM_PER_INCH).toFixed(3);
}

/** Several sizes with one unit behind: 563 × 40 × 5.5 mm; in fractions all of them or none. */
export function sizes(mm: number[], unit: LengthUnit): string {
  const all = unit === "fraction" && mm.some((v) => asFraction(v) === null) ? "inch" : unit;
  return `${mm.map((v) => lengthText(v, all)).join(" × ")} ${UNIT_MARK[unit]}`;
}

/** Numbers of mm as the server words them, with no more digits than they have; in fractions all of them or none. */
function wordLengths(said: string[], unit: LengthUnit): string[] {
  const mm = said.map(Number);
  if (unit === "mm") return said;
  if (unit === "fraction" && mm.every((v) => asFraction(v) !== null)) return mm.map((v) => asFraction(v) ?? "");
  return said.map((text, i) => {
    const inches = (mm[i] ?? 0) / MM_PER_INCH;
    const places = text.split(".")[1]?.length ?? 0;
    if (unit === "thou") return places ? trimmed(inches * 1000, places - 1) : String(10 * Math.round(inches * 100));
    return trimmed(inches, places + 2);
  });
}

export type WeightUnit = "g" | "oz";
export const G_PER_OZ = 28.349523125;

/** A weight in the user's own: g and kg, or oz and lb; in the larger where `like` takes it, so that a part reads as its whole. */
export function weight(g: number, unit: WeightUnit, like = g): string {
  if (unit === "oz") {
    const oz = g / G_PER_OZ;
    if (Math.abs(like / G_PER_OZ) < 16) return `${trimmed(oz, Math.abs(oz) < 1 ? 2 : 1)} oz`;
    return `${trimmed(oz / 16, 2)} lb`;
  }
  return like >= 10000 ? `${(g / 1000).toFixed(1)} kg` : `${g.toFixed(g < 10 ? 1 : 0)} g`;
}

/** What was typed, in g: 412, 412 g, 1.2 kg, 14.5 oz, 2 lb; bare numbers in the preferred unit. */
export function parseWeight(text: string, preferred: WeightUnit): Parsed {
  const found = /^(\d+(?:[.,]\d*)?|[.,]\d+)\s*(g|kg|oz|lb)?$/i.exec(text.trim());
  if (!found) return { ok: false, why: `“${text.trim().slice(0, 20)}” is not a weight: try 412, 1.2 kg or 14.5 oz` };
  const times = { g: 1, kg: 1000, oz: G_PER_OZ, lb: 16 * G_PER_OZ }[found[2]?.toLowerCase() ?? preferred] ?? 1;
  return { ok: true, value: Number((found[1] ?? "").replace(",", ".")) * times };
}

/** 12 %, 9.9 %; never minus nothing. */
export function percent(share: number): string {
  const text = (share * 100).toFixed(Math.abs(share) < 0.1 ? 1 : 0);
  return `${/^-0(\.0)?$/.test(text) ? text.slice(1) : text} %`;
}

export type TemperatureUnit = "C" | "F";

/** Degrees Celsius as a whole number in the user's own degrees: what a field holds. */
export function exactDegrees(celsius: number, unit: TemperatureUnit): string {
  return String(Math.round(unit === "C" ? celsius : celsius * 1.8 + 32));
}

/** As one says it: 1140 C is 2080 F, not 2084. A heat that is round in C is told as round in F, one told to a degree of C to a round
 * one of F where it may be that. */
export function degrees(celsius: number, unit: TemperatureUnit): string {
  if (unit === "C" || !Number.isInteger(celsius)) return exactDegrees(celsius, unit);
  const f = celsius * 1.8 + 32;
  const round = celsius >= 100 && celsius % 5 === 0;
  if (round) return String(celsius >= 600 && celsius % 10 === 0 ? 10 * Math.round(f / 10) : 5 * Math.round(f / 5));
  const near = [10, 5].map((by) => by * Math.round(f / by)).find((r) => Math.abs(r - f) <= 0.9);
  return String(near !== undefined && celsius >= 100 ? near : Math.round(f));
}

/** With its mark: 815 °C, 1499 °F. */
export function temperature(celsius: number, unit: TemperatureUnit): string {
  return `${degrees(celsius, unit)} °${unit}`;
}

/** From one to another: 795 to 820 °C. */
export function span(range: readonly number[], unit: TemperatureUnit): string {
  const [low, high] = range.map((c) => degrees(c, unit));
  return low === high ? `${low} °${unit}` : `${low} to ${high} °${unit}`;
}

/** What was typed, in C: 815, 815 C, 1500F; bare numbers in the preferred unit. */
export function parseTemperature(text: string, preferred: TemperatureUnit): Parsed {
  const found = /^([-+]?\d+(?:[.,]\d*)?)\s*°?\s*([cf])?$/i.exec(text.trim());
  if (!found) return { ok: false, why: `“${text.trim().slice(0, 20)}” is not a temperature: try 815, 815 C or 1500 F` };
  const value = Number((found[1] ?? "").replace(",", "."));
  const unit = (found[2]?.toUpperCase() ?? preferred) as TemperatureUnit;
  return { ok: true, value: unit === "C" ? value : (value - 32) / 1.8 };
}

export type Units = { length: LengthUnit; heat: TemperatureUnit; weight: WeightUnit };

const N = String.raw`-?\d+(?:\.\d+)?`;
const QUARTS_PER_LITRE = 1.056688;
const MM3_PER_CUBIC_INCH = MM_PER_INCH ** 3;
/** Quantities as the server says them: "12.5 mm", "85 x 18 mm", "5 to 8 mm", "790 C", "25 C°", "0.8 g", "25 µm", "1500 C°/h", "4 litres". */
const QUANTITY = new RegExp(
  `(${N})((?: to | x | by | × | and |–)${N})*(?:( mm of| mm2| mm3| cm3\\b| mm\\b| µm\\b| kg\\b| g in a litre\\b| g\\b| litres\\b)|( C)(°(?:/h)?|/h|\\b))`,
  "g",
);
const ONE = new RegExp(N, "g");

/** The server's words with every quantity in the user's own units; "25 C°" is a difference, "25 C" a temperature. */
export function inUnits(text: string, u: Units): string {
  return text.replace(
    QUANTITY,
    (whole, _first, _more, plain: string | undefined, c: string | undefined, tail: string | undefined) => {
      if (c) {
        if (u.heat === "C" && !tail?.includes("°") && !tail?.includes("/h")) return whole.replace(/ C$/, " °C");
        const by = tail?.includes("°") || tail?.includes("/h");
        const numbers = whole.slice(0, whole.lastIndexOf(" C"));
        const told = numbers.replace(ONE, (v) =>
          by ? String(Math.round(Number(v) * (u.heat === "C" ? 1 : 1.8))) : degrees(Number(v), u.heat),
        );
        return `${told} °${u.heat}${tail?.includes("/h") ? "/h" : ""}`;
      }
      const unit = (plain ?? "").trim();
      const numbers = whole.slice(0, whole.length - (plain ?? "").length);
      if (unit === "mm" || unit === "mm of") {
        if (u.length === "mm") return whole;
        const told = wordLengths(numbers.match(ONE) ?? [], u.length);
        return `${numbers.replace(ONE, () => told.shift() ?? "")} ${UNIT_MARK[u.length]}${unit === "mm of" ? " of" : ""}`;
      }
      if (unit === "µm") {
        if (u.length === "mm") return whole;
        return `${numbers.replace(ONE, (v) => trimmed(Number(v) / 25.4, Number(v) < 100 ? 2 : 1))} thou`;
      }
      if (unit === "cm3" && u.length !== "mm")
        return `${numbers.replace(ONE, (v) => trimmed((1000 * Number(v)) / MM3_PER_CUBIC_INCH, Number(v) < 16 ? 2 : 1))} cubic in`;
      if (unit === "litres" && u.weight === "oz")
        return `${numbers.replace(ONE, (v) => trimmed(Number(v) * QUARTS_PER_LITRE, Number(v) < 10 ? 1 : 0))} quarts`;
      if (unit === "g in a litre" && u.weight === "oz")
        return `${trimmed(Number(numbers) / G_PER_OZ / QUARTS_PER_LITRE, 1)} oz in a quart`;
      if ((unit === "g" || unit === "kg") && u.weight === "oz") {
        const times = unit === "kg" ? 1000 : 1;
        return weight(Number(numbers) * times, "oz");
      }
      return whole;
    },
  );
}

/** A refusal of one field's number, which the server words in the field's own unit without naming it. */
export function refusalInUnits(text: string, unit: string, u: Units): string {
  if (unit !== "mm" && unit !== "C" && unit !== "share") return inUnits(text, u);
  const tell = (v: string) =>
    unit === "mm" ? length(Number(v), u.length) : unit === "C" ? temperature(Number(v), u.heat) : percent(Number(v));
  const bare = new RegExp(`(^|[ (])(${N})(?= is out of range|[.;,]|$)`, "g");
  return inUnits(
    text.replace(bare, (_, before: string, v: string) => `${before}${tell(v)}`),
    u,
  );
}
