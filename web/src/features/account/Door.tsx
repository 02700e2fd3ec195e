import type { ReactNode } from "react";

export const DOOR_FIELD = "mt-0.5 block min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-base text-ink";

/** What stands before the shop: signing in, joining. */
export function Door({ children }: { children: ReactNode }) {
  return (
    <main className="grid h-dvh place-items-center overflow-y-auto p-4">
      <div className="w-full max-w-md rounded-2xl border border-line bg-panel p-8">
        <div className="mb-1 flex items-center gap-3">
          <img src="/static/mark.svg" alt="" width={44} height={44} />
          <h1 className="text-3xl font-bold">Varistrat</h1>
        </div>
        <p className="mb-6 text-quiet">See the etched blade before you light the forge.</p>
        {children}
      </div>
    </main>
  );
}
