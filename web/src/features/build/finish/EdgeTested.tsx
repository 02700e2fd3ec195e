import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../../api/client";
import type { Document, Operation } from "../../../api/types";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { EdgeTestFields, testOf, UNTESTED, WhatFollows } from "../../design/finish/EdgeTest";
import { testText } from "../../design/finish/words";
import { useBuild } from "../useBuild";

/** This build's design with all that was measured; none while there is no server. */
export function useMade(): Document | undefined {
  const { info, known } = useBuild();
  const made = useQuery({
    queryKey: ["build-made", info.id, info.plan, known.records.length],
    queryFn: () => ask(api.GET("/api/builds/{build_id}/made", { params: { path: { build_id: info.id } } })),
    enabled: known.link === "here",
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  });
  return made.data?.made as Document | undefined;
}

/** Tests of the edge: those written down, one more, and what follows from it. */
export function EdgeTested({ op }: { op: Operation }) {
  const { of, keeper, route } = useBuild();
  const made = useMade();
  const toast = useToast();
  const [open, setOpen] = useState(false);
  const [told, setTold] = useState(UNTESTED);
  const tests = of(op.id).tests;
  const begin = () => {
    // what was read after the last temper decides first
    const read = route
      .map((o) => o.readings.filter((r) => r.quantity === "hardness").map((r) => r.value))
      .findLast((r) => r.length);
    const mean = read ? Math.round((10 * read.reduce((a, b) => a + b, 0)) / read.length) / 10 : null;
    setTold({ ...UNTESTED, hrc: mean });
    setOpen(true);
  };
  const keep = async () => {
    const [made] = await keeper.write([{ op: op.id, kind: "tested", tested: testOf(told) }]);
    setTold(UNTESTED);
    setOpen(false);
    if (made)
      toast("The test is written down.", () => void keeper.write([{ op: op.id, kind: "voided", entry: made.id, why: "undone" }]));
  };
  return (
    <section aria-label="Tests of the edge" className="flex flex-col gap-2 rounded-lg border border-line p-3">
      <h2 className="text-lg font-bold">Test of the edge</h2>
      {tests.map((t) =>
        t.kind === "tested" ? (
          <p key={t.id} className={t.tested.seen === "fine" ? "" : "font-semibold text-stop"}>
            <span aria-hidden>{t.tested.seen === "fine" ? "✓" : "■"}</span> {testText(t.tested)}
          </p>
        ) : null,
      )}
      {open ? (
        <>
          <EdgeTestFields told={told} set={setTold} />
          <WhatFollows document={made} told={told} />
          {told.seen !== "fine" && !made ? <p className="text-quiet">What follows is told when the server is back.</p> : null}
          <div className="flex gap-2">
            <Button onClick={() => setOpen(false)}>Leave it</Button>
            <Button kind="main" onClick={() => void keep()}>
              Write it down
            </Button>
          </div>
        </>
      ) : (
        <div>
          <Button onClick={begin}>{tests.length ? "One more test" : "Write a test down"}</Button>
        </div>
      )}
    </section>
  );
}
