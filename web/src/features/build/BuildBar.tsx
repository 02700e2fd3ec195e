import { CloudOff, HardDrive, LogIn } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { Button, Modal } from "../../ui";
import { waitingWords } from "./log/words";
import { useBuild } from "./useBuild";

/** The build's own bar: its blade, its name, its places, and whether all that was written is safe. */
export function BuildBar({ children }: { children: ReactNode }) {
  const { info } = useBuild();
  return (
    <section
      aria-label="This build"
      data-design-bar
      className="no-print flex min-h-11 shrink-0 items-center gap-2 border-b border-line bg-ground px-3 max-[700px]:flex-wrap max-[700px]:gap-x-1 max-[700px]:px-1"
    >
      <Link to="/book" aria-label="To the book" className="hidden min-h-11 min-w-11 place-items-center max-[700px]:grid">
        <img src="/static/mark.svg" alt="" width={24} height={24} />
      </Link>
      <span className="min-w-0 shrink truncate font-semibold max-[700px]:flex-1">{info.title}</span>
      <nav
        aria-label="Places of this build"
        className="flex min-w-0 overflow-x-auto max-[700px]:order-last max-[700px]:basis-full max-[700px]:border-t max-[700px]:border-line"
      >
        {children}
      </nav>
      <span className="ml-auto flex shrink-0 items-center gap-2">
        <Safe />
      </span>
    </section>
  );
}

/** Whether all is on the server, or how much waits on this tablet. */
function Safe() {
  const { known, keeper } = useBuild();
  const [open, setOpen] = useState(false);
  const waiting = known.waiting.filter((w) => !w.refused).length;
  const refused = known.waiting.filter((w) => w.refused);
  const word = waitingWords(known.link, waiting, known.unkept);
  return (
    <>
      {refused.length ? (
        <Button compact onClick={() => setOpen(true)}>
          <span className="text-stop">{refused.length} not taken</span>
        </Button>
      ) : null}
      <span
        role="status"
        aria-label="Kept or waiting"
        title={word.hint}
        className={`inline-flex items-center gap-1.5 text-sm ${word.tone === "stop" ? "text-stop" : word.tone === "care" ? "text-care" : "text-quiet"}`}
      >
        {known.link === "away" ? <CloudOff size={16} aria-hidden /> : null}
        {known.link === "signed out" ? <LogIn size={16} aria-hidden /> : null}
        {known.link !== "away" && waiting ? <HardDrive size={16} aria-hidden /> : null}
        {word.text}
      </span>
      {known.link === "signed out" ? (
        <Button compact onClick={() => window.location.reload()}>
          Sign in
        </Button>
      ) : null}
      <Modal open={open && refused.length > 0} onClose={() => setOpen(false)} title="The server would not take these">
        <ul className="flex max-h-96 flex-col gap-3 overflow-y-auto">
          {refused.map((w) => (
            <li key={w.id} className="rounded-lg border border-line p-3">
              <p>
                {w.entry.kind} of {new Date(w.entry.at).toLocaleString()}: {w.refused?.wrong}
              </p>
              <p className="text-sm text-quiet">{w.refused?.cure}</p>
              <Button compact onClick={() => void keeper.drop(w.id)}>
                Let it go
              </Button>
            </li>
          ))}
        </ul>
      </Modal>
    </>
  );
}
