import { CircleAlert } from "lucide-react";
import { Suspense, useState } from "react";
import { NavLink } from "react-router";
import { useAsking } from "../features/help/useAsking";
import { lazily } from "../lib/rest";
import { useKeys } from "../lib/useKeys";
import { PLACES } from "./places";
import { Shortcuts } from "./Shortcuts";
import { YouMenu } from "./YouMenu";

const InstrumentsModal = lazily(() => import("../features/instruments/InstrumentsModal").then((m) => m.InstrumentsModal));
const WhatIsThis = lazily(() => import("../features/help/WhatIsThis").then((m) => m.WhatIsThis));
const FaultModal = lazily(() => import("../features/faults/FaultModal").then((m) => m.FaultModal));

export const PLACE_LINK =
  "grid min-h-11 place-items-center border-b-3 px-3 whitespace-nowrap max-[1100px]:px-2 aria-[current=page]:border-ink aria-[current=page]:font-bold border-transparent text-quiet hover:text-ink aria-[current=page]:text-ink";

/** The shop's places, always there; inside a design its own bar stands below, and on a phone in its stead. */
export function Header() {
  const [help, setHelp] = useState(false);
  const [wrong, setWrong] = useState(false);
  const [instruments, setInstruments] = useState(false);
  const asking = useAsking();
  useKeys({ "?": () => setHelp(true), "shift+?": () => setHelp(true), f: () => setWrong(true) });
  return (
    <header className="no-print flex min-h-11 shrink-0 items-center gap-2 border-b border-line bg-panel px-3 max-[700px]:has-[+[data-design-bar]]:hidden">
      <NavLink
        to="/bench"
        className="flex min-h-11 shrink-0 items-center gap-2 rounded-lg pr-2 text-xl font-bold"
        aria-label="Varistrat"
      >
        <img src="/static/mark.svg" alt="" width={26} height={26} />
        <span className="max-[900px]:hidden">Varistrat</span>
      </NavLink>
      <nav aria-label="Places" className="flex min-w-0 overflow-x-auto">
        {PLACES.map((p) => (
          <NavLink key={p.path} to={`/${p.path}`} className={PLACE_LINK}>
            {p.name}
          </NavLink>
        ))}
      </nav>
      <button
        type="button"
        title="What went wrong? (F)"
        aria-label="What went wrong?"
        onClick={() => setWrong(true)}
        className="ml-auto grid min-h-11 min-w-9 place-items-center rounded-lg px-2 whitespace-nowrap text-quiet hover:text-ink"
      >
        <span className="max-[1010px]:hidden">What went wrong?</span>
        <CircleAlert size={18} aria-hidden className="min-[1011px]:hidden" />
      </button>
      <YouMenu onHelp={() => setHelp(true)} onInstruments={() => setInstruments(true)} onPick={asking.pick} />
      <Shortcuts open={help} onClose={() => setHelp(false)} />
      {instruments ? (
        <Suspense fallback={null}>
          <InstrumentsModal onClose={() => setInstruments(false)} />
        </Suspense>
      ) : null}
      {asking.picking ? (
        <p role="status" className="fixed inset-x-0 top-12 z-50 mx-auto w-fit rounded-full bg-ink px-5 py-2 text-panel shadow-xl">
          Click on the word you ask about. Esc: never mind.
        </p>
      ) : null}
      {asking.about === null ? null : (
        <Suspense fallback={null}>
          <WhatIsThis about={asking.about} onClose={asking.close} />
        </Suspense>
      )}
      {wrong ? (
        <Suspense fallback={null}>
          <FaultModal onClose={() => setWrong(false)} />
        </Suspense>
      ) : null}
    </header>
  );
}
