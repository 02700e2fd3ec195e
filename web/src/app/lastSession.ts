/** Who was signed in here last: so that a tablet by the fire begins without the server. Gone with signing out. */

import { Unreachable } from "../api/client";
import type { Session } from "../api/types";

const NAME = "varistrat:session";

export function keepSession(session: Session): Session {
  try {
    if (session.user) localStorage.setItem(NAME, JSON.stringify(session));
    else localStorage.removeItem(NAME);
  } catch {
    // a browser that keeps nothing begins with the server
  }
  return session;
}

/** The one kept here, when the server cannot be reached; else what went wrong goes on. */
export function lastSession(e: unknown): Session & { away: true } {
  const kept = e instanceof Unreachable ? localStorage.getItem(NAME) : null;
  if (!kept) throw e;
  return { ...(JSON.parse(kept) as Session), away: true };
}
