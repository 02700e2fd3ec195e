() => {
  // what does not fit: a number cut in its field, words of a chart blown up, something to press with something else on top of it
  const found = [];
  const shown = (e) => {
    const box = e.getBoundingClientRect();
    return !e.closest("[inert]") && box.width > 2 && box.height > 2 && e.checkVisibility({ contentVisibilityAuto: true, visibilityProperty: true });
  };
  const name = (e) => (e.getAttribute("aria-label") || e.labels?.[0]?.textContent || e.textContent || e.tagName).trim().slice(0, 40);
  for (const field of document.querySelectorAll("input:not([type=range], [type=file], [type=checkbox], [type=radio])"))
    if (shown(field) && /^[-\d.,/ ]+$/.test(field.value) && field.scrollWidth > field.clientWidth + 1) found.push(["cut in its field", name(field), field.value]);
  for (const text of document.querySelectorAll("svg text")) {
    const matrix = text.getScreenCTM();
    if (!matrix || !shown(text)) continue;
    const px = parseFloat(getComputedStyle(text).fontSize) * Math.hypot(matrix.a, matrix.b);
    if (px > 18.5) found.push(["words of a chart too large", `${Math.round(px)} px`, text.textContent.slice(0, 30)]);
  }
  const clipped = (e, x, y) => {
    for (let up = e.parentElement; up; up = up.parentElement) {
      const box = up.getBoundingClientRect();
      if (getComputedStyle(up).overflow !== "visible" && (x < box.left || x > box.right || y < box.top || y > box.bottom)) return true;
    }
    return false;
  };
  for (const press of document.querySelectorAll("button:not(:disabled), a[href]")) {
    if (!shown(press)) continue;
    const box = press.getBoundingClientRect();
    const x = box.x + box.width / 2;
    const y = box.y + box.height / 2;
    if (x < 0 || y < 0 || x > innerWidth || y > innerHeight || clipped(press, x, y)) continue;
    const top = document.elementFromPoint(x, y);
    // what scrolls under a bar that stays comes out from under it again
    const stays = (e) => !!e && (["sticky", "fixed"].includes(getComputedStyle(e).position) || stays(e.parentElement));
    if (top && !stays(top) && !press.contains(top) && !top.contains(press)) found.push(["cannot be pressed", name(press), top.outerHTML.slice(0, 80)]);
  }
  return found;
}
