import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import { Notice } from "../../ui";
import { PRACTICE_KEY } from "./attempt";

/** An address that begins an exercise: anew, or by the seed in it. */
export function Begin() {
  const { kind = "" } = useParams();
  const [query] = useSearchParams();
  const seed = query.get("seed");
  const navigate = useNavigate();
  const queries = useQueryClient();
  const begun = useRef(false);
  const [wrong, setWrong] = useState("");
  useEffect(() => {
    // once, however often the page is drawn
    if (begun.current) return;
    begun.current = true;
    const body = { kind, ...(seed === null ? {} : { seed: Number(seed) }) };
    ask(api.POST("/api/practice", { body }))
      .then((made) => {
        queries.setQueryData([...PRACTICE_KEY, made.id], made);
        void navigate(`/practice/${made.id}`, { replace: true });
      })
      .catch((e: unknown) => setWrong(whatWentWrong(e)));
  }, [kind, seed, navigate, queries]);
  return (
    <main className="grid flex-1 place-items-center p-6">
      <h1 className="sr-only">Practice</h1>
      {wrong ? (
        <div className="max-w-md">
          <Notice tone="stop">{wrong}</Notice>
          <p className="mt-3">
            <Link className="underline" to="/practice">
              To all exercises
            </Link>
          </p>
        </div>
      ) : (
        <p className="animate-pulse text-quiet">Laying it out…</p>
      )}
    </main>
  );
}
