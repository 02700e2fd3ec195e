const MOST = 80;
const NAMED = "button, a, label, legend, th, td, dt, dd, h1, h2, h3, li, p, figcaption, summary, text, [aria-label]";

const PART = "section, fieldset, aside, figure, details, form, [role=region], [role=tabpanel], main";

const tidy = (text: string | null | undefined) => (text ?? "").replace(/\s+/g, " ").trim();

/** What the part of the screen that it stands in is called: a field's step, a switch's panel. */
export function aroundOf(at: Element | null): string {
  for (let part = at?.parentElement?.closest(PART); part; part = part.parentElement?.closest(PART)) {
    const named = tidy(part.getAttribute("aria-label") || part.querySelector("h1, h2, h3, legend")?.textContent);
    if (named) return named.slice(0, MOST);
  }
  return "";
}

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
