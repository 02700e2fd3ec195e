import { Modal } from "../ui";

const KEYS: [string, string][] = [
  ["← →", "the portrait before, after"],
  ["Shift ← →", "move the chosen step earlier, later"],
  ["I", "put a step in after the chosen one"],
  ["C", "copy the step"],
  ["O", "switch the step off or on"],
  ["Delete", "remove the step"],
  ["Z, Shift Z", "undo, redo"],
  ["[ ]", "grind a little less, more off the bar"],
  ["D", "to the ground-off handle"],
  ["U", "back from a bar to the joint it goes into"],
  ["G", "between Design and Grind"],
  ["H", "between Design and Heat"],
  ["N", "between Design and Finish"],
  ["F", "what went wrong: from anywhere"],
  ["W", "what if: a sheet of pictures with one or two numbers varied"],
  ["B", "enlarge the blade, and back"],
  ["F1", "what the word under the keyboard means"],
  ["?", "this page"],
];

export function Shortcuts({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal open={open} onClose={onClose} title="How it works">
      <ol className="mb-4 list-decimal space-y-1 pl-5">
        <li>
          The row of portraits is your bar, drawn to one scale after every step. Choose one to change the step that made it.
        </li>
        <li>The + between two portraits puts a new step there.</li>
        <li>Drag the “ground off” handle to see the pattern deeper in that bar.</li>
        <li>
          Where bars come together they stand at the left, running into the joint: open one to work on it, and go back when it is
          done.
        </li>
        <li>“Work it out” under a step does the sums that go with it; any of its numbers can be the one you are after.</li>
        <li>Above, both etched faces of the blade follow every change. Left and right lie spine to spine.</li>
        <li>
          In Heat: how many fires each step takes, what they do to carbon and skin, how the blade is hardened, and the kiln that
          does it.
        </li>
        <li>
          In Grind: where the core shows, left against right; what an error does to it; what to take off where after a test etch;
          how far up each belt may go.
        </li>
      </ol>
      <p className="mb-4">
        Lengths can be typed as read off the tool: <span className="font-mono">3/8</span>,{" "}
        <span className="font-mono">0.25"</span>, <span className="font-mono">6.35mm</span>,{" "}
        <span className="font-mono">25 thou</span>.
      </p>
      <h3 className="mb-1 font-bold">Keys</h3>
      <dl className="grid grid-cols-[8rem_1fr] gap-y-1">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-mono">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
