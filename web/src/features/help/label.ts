const MOST = 80;
const NAMED = "button, a, label, legend, th, td, dt, dd, h1, h2, h3, li, p, figcaption, summary, text, [aria-label]";

const tidy = (text: string | null | undefined) => (text ?? "").replace(/\s+/g, " ").trim();

/** What a thing on the screen is called: its own name, that of its field, or the words it is in. */
export function labelOf(at: Element | null): string {
  if (!at || at === document.body) return "";
  const field = at as HTMLInputElement;
  const named =
    tidy(at.getAttribute("aria-label")) ||
    tidy(field.labels?.[0]?.textContent) ||
    tidy(
      at
        .getAttribute("aria-labelledby")
        ?.split(" ")
        .map((id) => document.getElementById(id)?.textContent ?? "")
        .join(" "),
    );
  if (named) return named.slice(0, MOST);
  const around = at.closest(NAMED);
  if (!around) return "";
  return tidy(around.getAttribute("aria-label") || around.textContent).slice(0, MOST);
}
