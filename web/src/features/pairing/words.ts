import type { Use, Verdict } from "../../api/types";

export const VERDICT: Record<Verdict, { sign: string; word: string; wash: string; text: string }> = {
  good: { sign: "●", word: "goes together", wash: "bg-note-wash", text: "text-note" },
  care: { sign: "◐", word: "with care", wash: "bg-care-wash", text: "text-care" },
  no: { sign: "✕", word: "does not", wash: "bg-transparent", text: "text-quiet" },
};

export const USES: { value: Use; label: string; about: string }[] = [
  { value: "edge", label: "Mixed edge", about: "Fine layers right to the edge: all of them must harden, alike." },
  { value: "clad", label: "Core and clad", about: "A hard core between softer sides: thick layers, each keeps its own carbon." },
  { value: "decoration", label: "Fittings", about: "Guards, bolsters, mosaics: contrast, weld and flow are enough." },
];

export const ASPECT: Record<string, string> = {
  contrast: "Contrast",
  weld: "Weld",
  flow: "Under the hammer",
  carbon: "Carbon",
  harden: "Hardening heat",
  quench: "Quench",
  hardness: "Hardness",
  stress: "Growing and shrinking",
};

export const DECIDES: Record<string, string> = { ...ASPECT, "not all harden": "not all harden", "none hardens": "none hardens" };
