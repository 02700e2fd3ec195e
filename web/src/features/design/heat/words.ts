import type { Atmosphere, Fire, Fired } from "../../../api/types";

export const GAS: Record<Atmosphere, string> = {
  air: "lean, or open air",
  neutral: "neutral flame",
  rich: "slightly rich",
  very_rich: "very rich",
  flux: "under flux",
  sealed: "sealed",
};

export const TOOLS: Record<NonNullable<Fire["tool"]>, string> = {
  hand_hammer: "a hand hammer",
  power_hammer: "a power hammer",
  press: "a press",
  rolls: "a rolling mill",
};

export const EVEN: Record<Fired["even"], string> = {
  even: "carbon is even",
  partly: "partly evened out",
  own: "layers keep their own",
};
