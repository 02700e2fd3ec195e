import { useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import { Only } from "../../../app/session";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { Measure } from "../fields/Measure";
import { Fold } from "../Panel";
import { useFinish } from "./finish";
import { USUAL_BATH } from "./words";

/** One coupon of plain steel, half masked: the shop's own rate. */
export function Coupon() {
  const { sheet } = useFinish();
  const [said, setSaid] = useState<{ minutes: number | null; step: number | null }>({ minutes: 20, step: null });
  const [rate, setRate] = useState<{ rate: number; ours: number } | null>(null);
  const toast = useToast();
  const bath = sheet.data?.bath;
  const work = async () => {
    try {
      setRate(
        await ask(
          api.POST("/api/finish/coupon", {
            body: { bath: bath ?? USUAL_BATH, minutes: said.minutes ?? 0, step: said.step ?? 0 },
          }),
        ),
      );
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  const use = async () => {
    if (!rate) return;
    try {
      await ask(api.PUT("/api/figures/{key}", { params: { path: { key: "etch_r0" } }, body: { value: rate.rate } }));
      toast("It is a number of your shop now: see Steels, Numbers of your shop.");
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  return (
    <Fold title="Your own rate, by a coupon">
      <p className="col-span-full text-sm text-quiet">
        Plain carbon steel, hardened, half of it under tape, in this bath; then the step by micrometer.
      </p>
      <Measure label="In the bath" unit="min" value={said.minutes} onChange={(v) => setSaid({ ...said, minutes: v })} />
      <Measure label="Step" unit="µm" optional value={said.step} onChange={(v) => setSaid({ ...said, step: v })} />
      <div className="col-span-full flex flex-wrap items-center gap-2">
        <Button compact disabled={!said.minutes || !said.step} onClick={() => void work()}>
          Work it out
        </Button>
        {rate ? (
          <>
            <span>
              yours <b>{rate.rate.toFixed(2)}</b>, ours {rate.ours} µm/min
            </span>
            <Only needs="smith">
              <Button compact onClick={() => void use()}>
                Use yours
              </Button>
            </Only>
          </>
        ) : null}
      </div>
    </Fold>
  );
}
