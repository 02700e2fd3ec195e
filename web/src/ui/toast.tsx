import { createContext, type ReactNode, useCallback, useContext, useRef, useState } from "react";
import { Button } from ".";

type Toast = { id: number; text: string; undo?: () => void };
const Context = createContext<(text: string, undo?: () => void) => void>(() => undefined);

/** Say what was done, with a way back where there is one. */
export const useToast = () => useContext(Context);

export function ToastProvider({ children }: { children: ReactNode }) {
  const [toast, setToast] = useState<Toast | null>(null);
  const timer = useRef(0);
  const show = useCallback((text: string, undo?: () => void) => {
    window.clearTimeout(timer.current);
    setToast({ id: Date.now(), text, undo });
    timer.current = window.setTimeout(() => setToast(null), undo ? 12000 : 5000);
  }, []);
  return (
    <Context value={show}>
      {children}
      <div role="status" aria-live="polite" className="no-print fixed bottom-4 left-1/2 z-50 -translate-x-1/2">
        {toast ? (
          <div className="flex items-center gap-3 rounded-xl bg-ink py-1 pr-1 pl-4 text-panel shadow-xl">
            {toast.text}
            {toast.undo ? (
              <Button
                kind="main"
                onClick={() => {
                  toast.undo?.();
                  setToast(null);
                }}
              >
                Undo
              </Button>
            ) : (
              <span className="min-h-11 pr-3" />
            )}
          </div>
        ) : null}
      </div>
    </Context>
  );
}
