export const LEAST = 12;

/** How well a password would stand, in words: length first, for a long one of plain words is better than a short one of signs. Pure. */
export function strength(password: string): { says: string; share: number } {
  const kinds = [/[a-z]/, /[A-Z]/, /\d/, /[^A-Za-z0-9]/].filter((k) => k.test(password)).length;
  const different = new Set(password.toLowerCase()).size;
  if (!password) return { says: "", share: 0 };
  if (password.length < LEAST) return { says: `${LEAST - password.length} more`, share: (0.4 * password.length) / LEAST };
  if (different < 6) return { says: "easily guessed: always the same", share: 0.4 };
  const share = Math.min(1, 0.45 + 0.035 * (password.length - LEAST) + 0.06 * (kinds - 1));
  return { says: share < 0.6 ? "will do" : share < 0.8 ? "good" : "strong", share };
}
