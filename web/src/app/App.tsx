import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { BrowserRouter, Link, Route, Routes } from "react-router";
import { SignIn } from "../features/account";
import { Bench } from "../features/bench";
import { ToastProvider } from "../ui/toast";
import { Header } from "./Header";
import { SessionProvider, useSession } from "./session";

const Design = lazy(() => import("../features/design").then((m) => ({ default: m.Design })));
const Compare = lazy(() => import("../features/compare").then((m) => ({ default: m.Compare })));
const Pairing = lazy(() => import("../features/pairing").then((m) => ({ default: m.Pairing })));
const Steels = lazy(() => import("../features/steels").then((m) => ({ default: m.Steels })));

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

export function App() {
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

function Shop() {
  const { session } = useSession();
  if (!session.user) return <SignIn />;
  return (
    <div className="flex h-dvh flex-col overflow-clip">
      <Header />
      <Suspense fallback={<main className="grid flex-1 animate-pulse place-items-center text-quiet">Fetching…</main>}>
        <Routes>
          <Route path="/" element={<Bench />} />
          <Route path="/design/:id" element={<Design />} />
          <Route path="/design/:id/heat" element={<Design place="heat" />} />
          <Route path="/design/:id/grind" element={<Design place="grind" />} />
          <Route path="/compare" element={<Compare />} />
          <Route path="/pairing" element={<Pairing />} />
          <Route path="/steels" element={<Steels />} />
          <Route path="*" element={<Lost />} />
        </Routes>
      </Suspense>
    </div>
  );
}

function Lost() {
  return (
    <main className="grid flex-1 place-items-center text-center">
      <div>
        <h1 className="mb-2 text-2xl font-bold">There is nothing at this address</h1>
        <Link to="/" className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent">
          To the bench
        </Link>
      </div>
    </main>
  );
}
