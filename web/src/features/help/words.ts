/** The words of the trade as this program uses them, each with a picture of ours. Pure. */

import { ourWords } from "../../lib/called";
import type { Word } from "./word";
import { OF_THE_BAR } from "./wordsOfTheBar";
import { OF_THE_BLADE } from "./wordsOfTheBlade";

export const WORDS: Word[] = [...OF_THE_BAR, ...OF_THE_BLADE];

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
  const ours = ourWords(asked);
  const text = (word: Word) => `${word.term} ${(word.also ?? []).join(" ")} ${word.says}`;
  const named = (word: Word) => [word.term.toLowerCase(), ...(word.also ?? [])].some((n) => ours.some((o) => n.includes(o)));
  const score = (word: Word) => (word.term.toLowerCase().startsWith(parts[0] ?? "") ? 0 : 1);
  // by another name only what is called so by ours, not what merely speaks of it
  return WORDS.filter((word) => parts.every((p) => text(word).toLowerCase().includes(p)) || named(word)).sort(
    (a, b) => score(a) - score(b) || a.term.localeCompare(b.term),
  );
}

export const wordOf = (key: string) => WORDS.find((word) => word.key === key);
