import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo } from "react";
import { api, ask } from "../api/client";
import type { Preferences, Role, Session } from "../api/types";
import { inUnits, type LengthUnit, type TemperatureUnit, type Units, type WeightUnit, weight } from "../lib/units";
import { keepSession, lastSession } from "./lastSession";

const DEFAULTS: Preferences = { length: "mm", temperature: "C", weight: "g", theme: "system" };

type SessionState = { session: Session; preferences: Preferences; prefer: (change: Partial<Preferences>) => void };
const Context = createContext<SessionState | null>(null);

export function useSession(): SessionState {
  const found = useContext(Context);
  if (!found) throw new Error("outside SessionProvider");
  return found;
}

export function useUnit(): LengthUnit {
  return useSession().preferences.length;
}

export function useDegrees(): TemperatureUnit {
  return useSession().preferences.temperature;
}

export function useWeight(): WeightUnit {
  return useSession().preferences.weight;
}

/** All the user's units at once. */
export function useUnits(): Units {
  const { length, temperature: heat, weight: heavy } = useSession().preferences;
  return useMemo(() => ({ length, heat, weight: heavy }), [length, heat, heavy]);
}

/** The one formatter of the server's words: every quantity in them in the user's own units. */
export function useSay(): (text: string) => string {
  const units = useUnits();
  return useCallback((text: string) => inUnits(text, units), [units]);
}

/** Grams in the user's own units; a part in those of its whole. */
export function useGrams(): (g: number, like?: number) => string {
  const unit = useWeight();
  return useCallback((g: number, like?: number) => weight(g, unit, like), [unit]);
}

const ORDER: Role[] = ["helper", "smith", "owner"];

/** Whether one's role in the shop allows what needs this one; the server decides, this spares the try. */
export function useMay(needed: Role): boolean {
  const { session } = useSession();
  return !!session.shop && ORDER.indexOf(session.shop.role) >= ORDER.indexOf(needed);
}

/** Controls that change what is kept: dead for those whose role does not allow it. */
export function Only({ needs, children }: { needs: Role; children: ReactNode }) {
  const may = useMay(needs);
  return (
    <fieldset disabled={!may} className="contents" title={may ? undefined : `For a ${needs} of the shop`}>
      {children}
    </fieldset>
  );
}

/** Said to those who may only look, where there is something they may not change. */
export function RoleNote({ needs, what }: { needs: Role; what: string }) {
  const { session } = useSession();
  const may = useMay(needs);
  return may ? null : (
    <p className="text-sm text-quiet">
      You are a {session.shop?.role} here: look and try out. {what}
    </p>
  );
}

export const SESSION_KEY = ["session"];

export function SessionProvider({ children, loading }: { children: ReactNode; loading: ReactNode }) {
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: SESSION_KEY,
    // a tablet by the fire begins without the server: as who was signed in here last
    queryFn: (): Promise<Session & { away?: true }> => ask(api.GET("/api/session")).then(keepSession).catch(lastSession),
    retry: true,
    retryDelay: 1500,
    refetchInterval: (q) => (q.state.data?.away ? 8000 : false),
  });
  const preferences = data?.preferences ?? DEFAULTS;

  const prefer = useCallback(
    (change: Partial<Preferences>) => {
      queries.setQueryData<Session>(SESSION_KEY, (old) =>
        old ? { ...old, preferences: { ...(old.preferences ?? DEFAULTS), ...change } } : old,
      );
      // shown at once; if it cannot be kept now, it holds until the page is reloaded
      ask(api.PATCH("/api/preferences", { body: change })).catch(() => undefined);
    },
    [queries],
  );

  useEffect(() => {
    const media = window.matchMedia("(prefers-color-scheme: dark)");
    const apply = () => {
      const dark = preferences.theme === "dark" || (preferences.theme === "system" && media.matches);
      document.documentElement.dataset.theme = dark ? "dark" : "light";
    };
    apply();
    media.addEventListener("change", apply);
    return () => media.removeEventListener("change", apply);
  }, [preferences.theme]);

  // before anything below asks for anything
  if (data?.shop) document.documentElement.dataset.shop = String(data.shop.id);
  else delete document.documentElement.dataset.shop;

  if (!data) return loading;
  return <Context value={{ session: data, preferences, prefer }}>{children}</Context>;
}
