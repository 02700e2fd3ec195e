import { Link } from "react-router";
import { Modal } from "../../ui";
import { PAGES } from "./pages";
import type { Asked } from "./useAsking";
import { WordCard } from "./WordCard";
import { wordsIn } from "./words";

/** What the words of a label mean. */
export function WhatIsThis({ about, onClose }: { about: Asked; onClose: () => void }) {
  const { label, around } = about;
  const own = wordsIn(label);
  // a plain size says nothing by itself: then what it is a size of
  const words = own.length ? own : wordsIn(around);
  const place = PAGES.find((p) => p.title.toLowerCase() === label.toLowerCase());
  const rest = label && !words.length ? `?q=${encodeURIComponent(label)}` : "";
  return (
    <Modal
      open
      onClose={onClose}
      title={!label ? "What is this?" : own.length || !words.length ? `“${label}”` : `“${label}”, of “${around}”`}
      wide
    >
      {place ? (
        <div className="mb-3">
          <p>{place.decides}</p>
          <p className="mt-1 text-sm text-quiet">How sure: {place.sure}</p>
        </div>
      ) : null}
      {words.length ? (
        <ul className="grid gap-3">
          {words.map((word) => (
            <WordCard key={word.key} word={word} onGo={onClose} />
          ))}
        </ul>
      ) : place ? null : (
        <p>
          {label ? "That is no word of the trade that needs explaining." : "Nothing with a name has the keyboard."} What each
          place decides, and all words, stand in the help.
        </p>
      )}
      <p className="mt-4">
        <Link className="inline-flex min-h-11 items-center text-accent underline" to={`/help${rest}`} onClick={onClose}>
          All of the help
        </Link>
      </p>
    </Modal>
  );
}
