import { CloseButton, Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { useQueryClient } from "@tanstack/react-query";
import { BookOpen, Check, CircleHelp, LogOut, MousePointerClick, Ruler, UserRound } from "lucide-react";
import { Link } from "react-router";
import { api, ask, whatWentWrong } from "../api/client";
import type { Preferences, ShopSeat } from "../api/types";
import { clearShelf, waitingOf } from "../features/build/shelf";
import { Segments } from "../ui";
import { useToast } from "../ui/toast";
import { keepSession } from "./lastSession";
import { SESSION_KEY, useSession } from "./session";
import { Units } from "./Units";

const THEMES: { value: Preferences["theme"]; label: string }[] = [
  { value: "system", label: "system" },
  { value: "light", label: "light" },
  { value: "dark", label: "dark" },
];
const ROW = "flex min-h-11 w-full items-center gap-3 rounded-lg px-2 text-left hover:bg-line/60";

/** Units, light, help, who and where one is: behind one button. */
export function YouMenu({
  onHelp,
  onInstruments,
  onPick,
}: {
  onHelp: () => void;
  onInstruments: () => void;
  onPick: () => void;
}) {
  const { session, preferences, prefer } = useSession();
  const queries = useQueryClient();
  const toast = useToast();
  const short = preferences.length === "fraction" ? "1/4" : preferences.length === "inch" ? "in" : preferences.length;
  const signOut = () =>
    ask(api.POST("/api/session/sign-out"))
      .then(async (s) => {
        keepSession(s);
        // what was fetched of builds was of who was signed in; what they wrote and could not send stays for them
        const user = session.user ?? "";
        await clearShelf(user).catch(() => undefined);
        const left = await waitingOf(user).catch(() => []);
        if (left.length)
          toast(`${left.length} entries of ${user} wait on this tablet: they go when ${user} signs in here again.`);
        queries.setQueryData(SESSION_KEY, s);
        // all else was of who was signed in
        queries.removeQueries({ predicate: (q) => q.queryKey[0] !== SESSION_KEY[0] });
      })
      .catch((e) => toast(whatWentWrong(e)));
  const goTo = (shop: ShopSeat) =>
    ask(api.POST("/api/shops/{shop_id}/choose", { params: { path: { shop_id: shop.id } } }))
      // everything in sight is of the other shop
      .then(() => window.location.assign("/"))
      .catch((e) => toast(whatWentWrong(e)));
  return (
    <Popover className="ml-auto shrink-0">
      <PopoverButton
        title="You, your shop, units and light"
        className="flex min-h-11 items-center gap-2 rounded-lg px-2 text-sm hover:bg-line/60"
      >
        <span className="sr-only">You, your shop, units and light:</span>
        <span className="font-mono text-quiet">
          {short} · °{preferences.temperature}
        </span>
        <UserRound size={18} aria-hidden />
        <span className="max-w-40 truncate max-[900px]:hidden">{session.user}</span>
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: "bottom end", gap: 4 }}
        className="z-50 w-88 max-w-[calc(100vw-1rem)] space-y-3 rounded-xl border border-edge bg-panel p-3 shadow-xl outline-none"
      >
        <div>
          <p className="px-2 pb-1">
            <b>{session.user}</b>
            <span className="text-quiet">
              , {session.shop?.role} of {session.shop?.name}
            </span>
          </p>
          <CloseButton as={Link} to="/shop" className={ROW}>
            The shop and who works in it
          </CloseButton>
          {(session.shops?.length ?? 0) > 1 ? (
            <ul aria-label="Your shops" className="border-t border-line pt-1">
              {session.shops?.map((s) => (
                <li key={s.id}>
                  <button type="button" className={ROW} disabled={s.id === session.shop?.id} onClick={() => void goTo(s)}>
                    <span className="w-4">{s.id === session.shop?.id ? <Check size={16} aria-label="here" /> : null}</span>
                    <span className="min-w-0 flex-1 truncate">{s.name}</span>
                    <span className="text-sm text-quiet">{s.role}</span>
                  </button>
                </li>
              ))}
            </ul>
          ) : null}
        </div>
        <div className="space-y-3 border-t border-line pt-3">
          <Units preferences={preferences} prefer={prefer} />
        </div>
        <div className="border-t border-line pt-3">
          <span className="mb-0.5 block text-sm text-quiet">Light</span>
          <Segments<Preferences["theme"]>
            snug
            label="Light"
            value={preferences.theme}
            options={THEMES}
            onChange={(theme) => prefer({ theme })}
          />
        </div>
        <div className="border-t border-line pt-1">
          <CloseButton className={ROW} onClick={onInstruments}>
            <Ruler size={18} aria-hidden /> Instruments
          </CloseButton>
          <CloseButton className={ROW} onClick={onHelp}>
            <CircleHelp size={18} aria-hidden /> Help and shortcuts
            <span className="ml-auto font-mono text-quiet">?</span>
          </CloseButton>
          <CloseButton as={Link} to="/help" className={ROW}>
            <BookOpen size={18} aria-hidden /> Words, places and the tour
          </CloseButton>
          <CloseButton className={ROW} onClick={onPick}>
            <MousePointerClick size={18} aria-hidden /> What is this?
            <span className="ml-auto font-mono text-quiet">F1</span>
          </CloseButton>
          <button type="button" className={ROW} onClick={signOut}>
            <LogOut size={18} aria-hidden /> Sign out
          </button>
        </div>
      </PopoverPanel>
    </Popover>
  );
}
