import type { Preferences } from "../api/types";
import { Segments } from "../ui";

const LENGTHS: { value: Preferences["length"]; label: string }[] = [
  { value: "mm", label: "mm" },
  { value: "inch", label: "inch, 0.25" },
  { value: "fraction", label: "inch, 1/4" },
  { value: "thou", label: "thou" },
];

const TEMPERATURES: { value: Preferences["temperature"]; label: string }[] = [
  { value: "C", label: "°C" },
  { value: "F", label: "°F" },
];
const WEIGHTS: { value: Preferences["weight"]; label: string }[] = [
  { value: "g", label: "g, kg" },
  { value: "oz", label: "oz, lb" },
];

type Menu = { preferences: Preferences; prefer: (change: Partial<Preferences>) => void };

function Unit<K extends "length" | "temperature" | "weight">({
  name,
  of,
  options,
  preferences,
  prefer,
}: Menu & { name: string; of: K; options: { value: Preferences[K]; label: string }[] }) {
  return (
    <div>
      <span className="mb-0.5 block text-sm text-quiet">{name}</span>
      <Segments<Preferences[K]>
        snug
        label={`Units of ${of}`}
        value={preferences[of]}
        options={options}
        onChange={(value) => prefer({ [of]: value } as Partial<Preferences>)}
      />
    </div>
  );
}

/** Units of length, temperature and weight: everything on the screen and on paper follows. */
export function Units({ preferences, prefer }: Menu) {
  return (
    <>
      <Unit name="Lengths" of="length" options={LENGTHS} preferences={preferences} prefer={prefer} />
      <div className="grid grid-cols-2 gap-3">
        <Unit name="Temperatures" of="temperature" options={TEMPERATURES} preferences={preferences} prefer={prefer} />
        <Unit name="Weights" of="weight" options={WEIGHTS} preferences={preferences} prefer={prefer} />
      </div>
      <p className="text-sm text-quiet">You may type any of them in any field: 6mm, 3/8, 0.25", 25 thou, 1500 F.</p>
    </>
  );
}
