import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ReactNode, Suspense, useEffect } from "react";
import { BrowserRouter, Link, Navigate, Route, Routes, useMatch } from "react-router";
import { Join, SignIn } from "../features/account";
import { InstrumentBar } from "../features/instruments/InstrumentBar";
import { lazily, useOpened, watchRest } from "../lib/rest";
import { useTitle } from "../lib/title";
import { ToastProvider } from "../ui/toast";
import { Header } from "./Header";
import { BuildPage, DesignPage, HelpPage, PLACES, ShopPage } from "./places";
import { SessionProvider, useSession } from "./session";

const TourCard = lazily(() => import("../features/help/tour").then((m) => m.TourCard));

// reached over a shop's own network, or on this machine: whatever the browser thinks of being online
const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: 1, refetchOnWindowFocus: false, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});

watchRest(queries);

export function App() {
  useOpened();
  return (
    <QueryClientProvider client={queries}>
      <SessionProvider loading={<p className="grid h-dvh animate-pulse place-items-center text-quiet">Lighting the lamps…</p>}>
        <ToastProvider>
          {/* the address is state: put off in a transition, a second change would be made upon the first one's past */}
          <BrowserRouter useTransitions={false}>
            <Shop />
          </BrowserRouter>
        </ToastProvider>
      </SessionProvider>
    </QueryClientProvider>
  );
}

/** What was written by the fire and could not be sent goes from any page, a moment after it has opened. */
const SEND_AFTER_MS = 1500;

function useSending(user: string | null | undefined, shop: number | undefined) {
  useEffect(() => {
    if (!user || shop === undefined) return;
    const send = () => void import("../features/build/keeper").then((m) => m.sendAll(user, shop)).catch(() => undefined);
    const soon = window.setTimeout(send, SEND_AFTER_MS);
    window.addEventListener("online", send);
    return () => {
      window.clearTimeout(soon);
      window.removeEventListener("online", send);
    };
  }, [user, shop]);
}

function Shop() {
  const { session } = useSession();
  const joining = useMatch("/join/:token");
  useSending(session.user, session.shop?.id);
  if (joining)
    return (
      <Routes>
        <Route path="/join/:token" element={<Join />} />
      </Routes>
    );
  if (!session.user) return <SignIn />;
  return (
    <div className="flex h-dvh flex-col overflow-clip">
      <Header />
      <InstrumentBar />
      <Suspense fallback={<main className="grid flex-1 animate-pulse place-items-center text-quiet">Fetching…</main>}>
        <Routes>
          <Route path="/" element={<Navigate replace to="/bench" />} />
          {PLACES.map(({ path, name, Page }) => (
            <Route
              key={path}
              path={`/${path}/*`}
              element={
                <Titled name={name}>
                  <Page />
                </Titled>
              }
            />
          ))}
          <Route
            path="/shop"
            element={
              <Titled name="The shop">
                <ShopPage />
              </Titled>
            }
          />
          <Route
            path="/help"
            element={
              <Titled name="Help">
                <HelpPage />
              </Titled>
            }
          />
          <Route path="/build/:id/:tab?/:op?" element={<BuildPage />} />
          <Route path="/design/:id/:place?/:tab?" element={<DesignPage />} />
          <Route path="*" element={<Lost />} />
        </Routes>
      </Suspense>
      <Suspense fallback={null}>
        <TourCard />
      </Suspense>
    </div>
  );
}

function Titled({ name, children }: { name: string; children: ReactNode }) {
  useTitle(name);
  return children;
}

function Lost() {
  return (
    <main className="grid flex-1 place-items-center text-center">
      <div>
        <h1 className="mb-2 text-2xl font-bold">There is nothing at this address</h1>
        <Link to="/bench" className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent">
          To the bench
        </Link>
      </div>
    </main>
  );
}
