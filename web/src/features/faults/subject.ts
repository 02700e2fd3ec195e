import { useEffect } from "react";
import type { Document } from "../../api/types";

type Subject = { document?: Document; build?: number };
let subject: Subject = {};

/** What is in sight, for whoever asks what went wrong with it. */
export function faultSubject(): Subject {
  return subject;
}

/** While it is in sight. */
export function useFaultSubject(now: Subject): void {
  useEffect(() => {
    subject = now;
    return () => {
      subject = {};
    };
  }, [now]);
}
