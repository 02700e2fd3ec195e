import { useState, useSyncExternalStore } from "react";
import { useUnits } from "../../app/session";
import { Button, Choice, Modal, Notice } from "../../ui";
import { connect, disconnect, hear, serialHere, snapshot, subscribe } from "./port";
import { takenText } from "./words";

const RATES = ["2400", "4800", "9600", "19200", "115200"].map((value) => ({ value, label: `${value} a second` }));

/** One to be connected, a stand-in to try it with, and what was heard last. */
export function InstrumentsModal({ onClose }: { onClose: () => void }) {
  const { link, heard, wrong } = useSyncExternalStore(subscribe, snapshot);
  const units = useUnits();
  const [rate, setRate] = useState("9600");
  const [line, setLine] = useState("12.34 mm");
  return (
    <Modal open onClose={onClose} title="Instruments">
      <div data-instruments className="flex flex-col gap-4">
        <p>
          A caliper, scale or thermometer that types like a keyboard needs nothing: put the cursor into a field and press its
          button. One that sends lines over a cable is connected here; what it says is shown first, and goes into the field that
          has the focus when you confirm it.
        </p>
        {wrong ? <Notice tone="care">It was not connected: {wrong}</Notice> : null}
        {link === "lost" ? <Notice tone="care">It went away. Plug it in and connect it again.</Notice> : null}
        {serialHere() ? (
          <div className="flex items-end gap-3">
            <div className="w-48">
              <Choice titled label="It sends at" value={rate} options={RATES} onChange={setRate} />
            </div>
            {link === "open" ? (
              <Button onClick={disconnect}>Let it go</Button>
            ) : (
              <Button kind="main" onClick={() => void connect(Number(rate))}>
                Connect one
              </Button>
            )}
          </div>
        ) : (
          <Notice tone="note">This browser cannot listen to a cable; one that types like a keyboard works all the same.</Notice>
        )}
        <form
          className="flex items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            hear(line);
          }}
        >
          <label className="flex-1">
            <span className="mb-0.5 block text-sm text-quiet">A stand-in, to try it: the line it sends</span>
            <input
              value={line}
              maxLength={80}
              onChange={(e) => setLine(e.target.value)}
              className="min-h-11 w-full rounded-lg border border-edge bg-well px-3 font-mono"
            />
          </label>
          <Button type="submit">Send it</Button>
        </form>
        <ul aria-label="Heard last" className="text-sm">
          {heard.map((h) => (
            <li key={`${h.at}${h.line}`} className="flex gap-3 border-t border-line py-1">
              <span className="min-w-0 flex-1 truncate font-mono">{h.line}</span>
              <span>
                {h.taken ? takenText(h.taken, units) : <span className="text-quiet">ends in no number with a unit</span>}
              </span>
            </li>
          ))}
        </ul>
      </div>
    </Modal>
  );
}
