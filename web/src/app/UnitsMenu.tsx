import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { Ruler } from "lucide-react";
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
export function UnitsMenu({ preferences, prefer }: Menu) {
  const short = preferences.length === "fraction" ? "1/4" : preferences.length === "inch" ? "in" : preferences.length;
  return (
    <Popover className="shrink-0 max-[1000px]:ml-auto">
      <PopoverButton
        aria-label={`Units: ${short}, °${preferences.temperature}, ${preferences.weight}`}
        title="Units"
        className="flex min-h-11 items-center gap-1.5 rounded-lg px-2 font-mono text-sm hover:bg-line/60"
      >
        <Ruler size={17} aria-hidden />
        {short} · °{preferences.temperature}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: "bottom end", gap: 4 }}
        className="z-50 w-80 space-y-3 rounded-xl border border-edge bg-panel p-3 shadow-xl outline-none"
      >
        <Unit name="Lengths" of="length" options={LENGTHS} preferences={preferences} prefer={prefer} />
        <Unit name="Temperatures" of="temperature" options={TEMPERATURES} preferences={preferences} prefer={prefer} />
        <Unit name="Weights" of="weight" options={WEIGHTS} preferences={preferences} prefer={prefer} />
        <p className="text-sm text-quiet">You may type any of them in any field: 6mm, 3/8, 0.25", 25 thou, 1500 F.</p>
      </PopoverPanel>
    </Popover>
  );
}
