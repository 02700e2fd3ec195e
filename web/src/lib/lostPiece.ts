const AGAIN_MS = 30_000;
const WHEN = "varistrat:reloaded";

/** A piece of the front end did not come. It was built again while the page was open, and a reload finds the pieces of today; but only where the
 * server answers: out of its reach a reload would take away the page that still stands. */
export async function lostPiece(reload: () => void): Promise<void> {
  if (Date.now() - Number(sessionStorage.getItem(WHEN) ?? 0) < AGAIN_MS) return;
  const there = await fetch("/", { method: "HEAD", cache: "no-store" }).then(
    (answer) => answer.ok,
    () => false,
  );
  if (!there) return;
  sessionStorage.setItem(WHEN, String(Date.now()));
  reload();
}
