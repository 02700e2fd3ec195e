import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { DesignFull } from "../../api/types";
import { useSaves } from "../../api/useSaves";
import { usePicture } from "../../api/worked";
import { Only } from "../../app/session";
import { Button, Modal, Notice } from "../../ui";
import { useToast } from "../../ui/toast";

/** Every save of this design: look at one, bring it back. */
export function History({
  id,
  open,
  onClose,
  onTake,
}: {
  id: number;
  open: boolean;
  onClose: () => void;
  onTake: (full: DesignFull) => void;
}) {
  const path = { design_id: id };
  const list = useSaves(id, open);
  const saves = list.saves;
  const [looked, setLooked] = useState<number | null>(null);
  const queries = useQueryClient();
  const toast = useToast();
  const full = useQuery({
    queryKey: ["revision", id, looked],
    queryFn: () =>
      ask(api.GET("/api/designs/{design_id}/revisions/{number}", { params: { path: { ...path, number: looked ?? 0 } } })),
    enabled: open && looked !== null,
  });
  const bringBack = async (number: number) => {
    const found = await ask(
      api.POST("/api/designs/{design_id}/revisions/{number}/bring-back", { params: { path: { ...path, number } } }),
    );
    onTake(found);
    queries.invalidateQueries({ queryKey: ["revisions", id] });
    toast(`Save ${number} is on the table again.`);
    onClose();
  };
  return (
    <Modal open={open} onClose={onClose} title="Earlier saves" wide>
      <div className="grid max-h-[70vh] grid-cols-[15rem_1fr] gap-4">
        <ol className="overflow-y-auto rounded-lg border border-line">
          {saves.map((r, i) => (
            <li key={r.number}>
              <button
                type="button"
                onClick={() => setLooked(r.number)}
                aria-current={looked === r.number}
                className={`block min-h-11 w-full px-3 py-1.5 text-left hover:bg-line/50 ${looked === r.number ? "bg-line/70" : ""}`}
              >
                <span className="font-semibold">Save {r.number}</span> {i === 0 && !r.stale ? "(now)" : ""}
                <span className="block text-sm text-quiet">
                  {new Date(r.created).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}
                  {r.saved_by ? ` by ${r.saved_by}` : ""}
                  {r.stale ? ", set aside: saved elsewhere in between" : ""}
                  {r.note ? `, ${r.note}` : ""}
                </span>
              </button>
            </li>
          ))}
          {list.hasNextPage ? (
            <li className="p-2">
              <Button onClick={() => void list.fetchNextPage()} disabled={list.isFetchingNextPage}>
                Older saves
              </Button>
            </li>
          ) : null}
        </ol>
        <div className="min-w-0">
          {full.data ? (
            <>
              {full.data.document.blade ? <Faces full={full.data} /> : <p>This save has no blade.</p>}
              <p className="my-3 text-quiet">
                {full.data.document.recipe.bar.steps?.length ?? 0} steps. Bringing it back makes a new save; nothing is lost.
              </p>
              <Only needs="smith">
                <Button kind="main" onClick={() => bringBack(looked ?? 0)}>
                  Bring this back
                </Button>
              </Only>
            </>
          ) : list.error ? (
            <Notice tone="stop">{list.error.message}</Notice>
          ) : (
            <p className="text-quiet">Choose a save to look at it.</p>
          )}
        </div>
      </div>
    </Modal>
  );
}

function Faces({ full }: { full: DesignFull }) {
  const picture = usePicture(
    "/api/predict/blade.png",
    { document: full.document, side: "right", margin: 4, book: true },
    900,
    "history",
  );
  return (
    <div className="grid min-h-24 place-items-center rounded-lg bg-plate p-2">
      {picture.data ? (
        <img src={picture.data} alt={`Right face of save ${full.current}`} className="w-full" />
      ) : (
        <span className="text-plate-quiet">drawing…</span>
      )}
    </div>
  );
}
