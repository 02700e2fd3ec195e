import { useEffect } from "react";

const OURS = "Varistrat";

/** The page's title, for tabs, windows and who hears the page: where one is, the nearest first. */
export function useTitle(...where: (string | undefined)[]): void {
  const said = where.filter(Boolean).join(", ");
  useEffect(() => {
    document.title = said ? `${said} - ${OURS}` : OURS;
    return () => {
      document.title = OURS;
    };
  }, [said]);
}
