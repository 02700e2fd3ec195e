import { Link } from "react-router";
import { Sketch } from "./Sketch";
import type { Word } from "./word";
import { wordOf } from "./words";

/** A word with its picture. */
export function WordCard({ word, onGo }: { word: Word; onGo?: () => void }) {
  return (
    <li id={`word-${word.key}`} className="flex gap-3 rounded-xl border border-line bg-panel p-3">
      <div className="w-32 shrink-0">
        {"face" in word.picture ? (
          <img
            src={`/api/starters/${word.picture.face}/picture.png`}
            alt=""
            loading="lazy"
            className="h-18 w-full rounded bg-plate object-cover"
          />
        ) : (
          <Sketch name={word.picture.sketch} />
        )}
      </div>
      <div className="min-w-0 flex-1">
        <h3 className="font-bold">{word.term}</h3>
        <p>{word.says}</p>
        {word.see?.length ? (
          <p className="text-sm text-quiet">
            See{" "}
            {word.see.map((key, i) => (
              <span key={key}>
                {i ? ", " : ""}
                <Link className="underline" to={`/help?word=${key}`} onClick={onGo}>
                  {wordOf(key)?.term.toLowerCase()}
                </Link>
              </span>
            ))}
          </p>
        ) : null}
      </div>
    </li>
  );
}
