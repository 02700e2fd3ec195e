/** A page for each place: what it decides, and how sure it is. Pure. */

import { fits } from "../../lib/called";

export type Page = { key: string; title: string; where: string; decides: string; sure: string; care?: string };

export const PAGES: Page[] = [
  {
    key: "bench",
    title: "Bench",
    where: "/bench",
    decides:
      "What is going on: builds with what comes next, clocks that run, what was promised by when, what runs low; then your designs. Begin a design from nothing, from a ready start, or from a file.",
    sure: "It tells what is written down and works nothing out.",
  },
  {
    key: "design",
    title: "Design",
    where: "A design",
    decides:
      "How the bar is made, step by step, and what its faces look like: every step has its portrait, its numbers and what it does at the fire. Change a number and both faces follow.",
    sure: "Where the steel goes is geometry: exact for the steps as written. How a hand differs from them is told by “uneven hand”; tones and the width of welds are indicative.",
    care: "What can hurt you at a step stands beside it. Your local rules and those who are licensed for a work come first.",
  },
  {
    key: "stock",
    title: "Stock",
    where: "A design, Stock",
    decides:
      "How long each pile must be for this blade, which bars of the rack to saw, what it costs in hours and money, and the chance of coming up short.",
    sure: "Backwards through the same steps, to a fifth of a millimetre. Losses spread as your log says, or as we guess until it does; the chance is of 4,096 forgings drawn.",
  },
  {
    key: "heat",
    title: "Heat",
    where: "A design, Heat",
    decides:
      "How often and how hot for each step, what scale and skin it costs, where the carbon goes; then the hardening, by kiln or by magnet and colour, and the kiln's run.",
    sure: "Carbon and grain by published laws, each silent outside its range; hardness to one and a half HRC. What the tester says of this blade stands in for the law.",
    care: "Hot oil, hot salt and gas kill: follow the makers' sheets and your local fire rules.",
  },
  {
    key: "grind",
    title: "Grind",
    where: "A design, Grind",
    decides:
      "Where the core shows on both sides, what each error does to it, what to take off where after a test etch, how many of ten thousand blades would be of first grade.",
    sure: "The line is exact for the errors assumed; from readings it is inferred with its own width, which is shown. Nothing is advised that turns on less.",
    care: "Respirator, glasses, no gloves near a belt; grinding dust of nickel and cobalt harms lungs.",
  },
  {
    key: "finish",
    title: "Finish",
    where: "A design, Finish",
    decides:
      "The last day: grits in order, cycles in this bath for the relief you want, edge, fit-up, mark, what to look at before it goes.",
    sure: "How fast a bath bites is known to a third until a coupon was etched; then to a tenth.",
    care: "Acid into water, goggles and gloves, no steel of unknown make in acid, waste by your local rules.",
  },
  {
    key: "begin",
    title: "Build",
    where: "A design, Build",
    decides: "Whether rack and bar are ready; then freezes the plan and lays the steel aside.",
    sure: "A frozen plan stays as it was on that day, whatever is learned later.",
  },
  {
    key: "sheet",
    title: "Shop sheet",
    where: "A build, Sheet",
    decides:
      "One operation at a time, by the fire: what to do, what to reach, what to look at, clocks. Works without network; what is written waits on the tablet.",
    sure: "What was measured replaces what was planned, and what follows is worked out anew.",
  },
  {
    key: "log",
    title: "Log and Photos",
    where: "A build",
    decides:
      "Planned beside measured, what differs and why; a photo laid over the prediction, and what it tells of how the blade was made.",
    sure: "Each number read off a photo has its nine-in-ten range; what a photo does not tell is said so.",
  },
  {
    key: "book",
    title: "Book",
    where: "/book",
    decides: "All builds with hours, yield and faults, orders, and what they teach: your own numbers against ours.",
    sure: "From three builds on, with a range in which eight of ten of your next would lie. Nothing is put in by itself.",
  },
  {
    key: "rack",
    title: "Rack",
    where: "/rack",
    decides: "What the shop owns, where it lies, what it is still good for. Every change is a movement that stays.",
    sure: "It is the sum of its movements: there is no second count that could differ.",
  },
  {
    key: "baths",
    title: "Baths",
    where: "/baths",
    decides: "How to mix, how worn a bath is, when to renew it, how to get rid of it.",
    sure: "Wear by what was etched in it; indicative until a coupon says better.",
    care: "Order of mixing, goggles, ventilation: stated at each bath. Waste by your local rules.",
  },
  {
    key: "steels",
    title: "Steels",
    where: "/steels",
    decides: "What each steel is: composition, heats, tones, with the source of every figure; your own in place of ours.",
    sure: "Published figures with their sources; estimates are marked. What you put in counts everywhere at once.",
  },
  {
    key: "pairing",
    title: "Pairing",
    where: "/pairing",
    decides: "Which steels go together, and why: contrast, weld, flow, carbon, hardening, use.",
    sure: "Each aspect with its number; a verdict never turns on less than the number is sure to.",
  },
  {
    key: "looks",
    title: "Looks",
    where: "/looks",
    decides: "From a wanted look to bars that come near it, each with its heats, hours, cost and losses.",
    sure: "Looks are measured on the predicted faces, to a few percent of their scales. A pattern finer than half a millimetre shows as grey.",
  },
  {
    key: "practice",
    title: "Practice",
    where: "/practice",
    decides: "Nothing: steel that does not exist, to be ruined, on the same laws as yours. Scores are your own.",
    sure: "The hidden truth is drawn as real errors are. No screen shows a heat rightly: learn colours at the fire.",
  },
  {
    key: "compare",
    title: "Side by side",
    where: "/compare",
    decides: "Two faces at one scale; or all your designs by how they suit your hand: which gives most of first grade.",
    sure: "A thousand blades of each, the same hands for all: to three in a hundred. What is not told apart is said to be as good.",
  },
  {
    key: "faults",
    title: "What went wrong?",
    where: "Key F, anywhere",
    decides: "From what you see to its likely causes, the look that tells most, and what to do now and next time.",
    sure: "Odds from your design, log and answers; each says how much it counts. Never a risky cure before the look that justifies it.",
  },
  {
    key: "shop",
    title: "Shop and people",
    where: "Behind your name",
    decides: "Who works here and what each may do; units, light, instruments.",
    sure: "What one shop owns no other ever sees.",
  },
];

/** Those that speak of all the words; all when nothing is asked. */
export function pagesFor(asked: string): Page[] {
  return PAGES.filter((p) => fits(`${p.title} ${p.decides} ${p.sure} ${p.care ?? ""}`, asked));
}

export type Stop = { title: string; says: string; path: (design: number | undefined) => string };

/** The tour: five stops, each a place one can go on working in. */
export const STOPS: Stop[] = [
  {
    title: "The bench",
    says: "What is going on in the shop, and your designs. “New design” begins one: each traditional family has a ready start. Open any design by its picture.",
    path: () => "/bench",
  },
  {
    title: "The bar, step by step",
    says: "On top both etched faces. Below the bar after every step: choose a portrait to change the step that made it, and the faces follow. Drag “ground off” to see deeper into that bar.",
    path: (id) => (id ? `/design/${id}` : "/bench"),
  },
  {
    title: "From the blade back to the bars",
    says: "Stock: how long each pile must be, how far the bar reaches, what gives way when it is short, which bars of the rack to saw.",
    path: (id) => (id ? `/design/${id}/stock` : "/rack"),
  },
  {
    title: "At the fire",
    says: "Heat: how hot and how often for each step, what it costs in scale and carbon, and what can hurt you there. The hardening stands beside it, told step by step.",
    path: (id) => (id ? `/design/${id}/heat` : "/steels"),
  },
  {
    title: "Without spoiling steel",
    says: "Practice ruins steel that does not exist. When a design is right, its last place, Build, carries it to the anvil: the shop sheet leads through the work. F1 says what the word under the cursor means.",
    path: () => "/practice",
  },
];
