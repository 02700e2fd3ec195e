import { useQueryClient } from "@tanstack/react-query";
import { CircleHelp, LogOut, Moon, Sun } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { NavLink } from "react-router";
import { api, ask } from "../api/client";
import { useKeys } from "../features/design/useKeys";
import { Button } from "../ui";
import { Shortcuts } from "./Shortcuts";
import { SESSION_KEY, useSession } from "./session";
import { UnitsMenu } from "./UnitsMenu";

const SLOT = "header-slot";

/** Puts a place's own controls into the header. */
export function HeaderSlot({ children }: { children: ReactNode }) {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  useEffect(() => setSlot(document.getElementById(SLOT)), []);
  return slot ? createPortal(children, slot) : null;
}

const PLACES = [
  { to: "/", name: "Bench" },
  { to: "/pairing", name: "Pairing" },
  { to: "/steels", name: "Steels" },
  { to: "/compare", name: "Side by side" },
];

export function Header() {
  const { session, preferences, prefer } = useSession();
  const [help, setHelp] = useState(false);
  const queries = useQueryClient();
  useKeys({ "?": () => setHelp(true), "shift+?": () => setHelp(true) });
  const dark = document.documentElement.dataset.theme === "dark";
  const signOut = () =>
    ask(api.POST("/api/session/sign-out")).then((s) => {
      queries.clear();
      queries.setQueryData(SESSION_KEY, s);
    });
  return (
    <header className="no-print flex min-h-13 shrink-0 items-center gap-2 border-b border-line bg-panel px-3 max-[1000px]:flex-wrap">
      <NavLink to="/" className="flex min-h-11 items-center gap-2 rounded-lg pr-2 text-xl font-bold" aria-label="Varistrat">
        <img src="/static/mark.svg" alt="" width={28} height={28} />
        <span className="max-[1200px]:hidden">Varistrat</span>
      </NavLink>
      <nav aria-label="Places" className="flex shrink-0">
        {PLACES.map((p) => (
          <NavLink
            key={p.to}
            to={p.to}
            end
            className={({ isActive }) =>
              `grid min-h-11 place-items-center rounded-lg px-3 whitespace-nowrap max-[1200px]:px-1.5 ${isActive ? "font-bold underline decoration-2 underline-offset-8" : "text-quiet hover:text-ink"}`
            }
          >
            {p.name}
          </NavLink>
        ))}
      </nav>
      <div
        id={SLOT}
        className="flex min-w-0 flex-1 items-center justify-center gap-1 max-[1000px]:order-last max-[1000px]:basis-full max-[1000px]:justify-start"
      />
      <UnitsMenu preferences={preferences} prefer={prefer} />
      <Button
        kind="quiet"
        compact
        label={dark ? "Light theme" : "Dark theme"}
        onClick={() => prefer({ theme: dark ? "light" : "dark" })}
      >
        {dark ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
      </Button>
      <Button kind="quiet" compact label="Help and shortcuts (?)" onClick={() => setHelp(true)}>
        <CircleHelp size={18} aria-hidden />
      </Button>
      <Button kind="quiet" compact label={`Sign out ${session.user ?? ""}`} onClick={signOut}>
        <LogOut size={18} aria-hidden />
      </Button>
      <Shortcuts open={help} onClose={() => setHelp(false)} />
    </header>
  );
}
