import { Redo2, Undo2 } from "lucide-react";
import { memo } from "react";
import { Link, NavLink } from "react-router";
import type { DesignFull } from "../../api/types";
import { PLACE_LINK } from "../../app/Header";
import { Button } from "../../ui";
import { MoreMenu, NameField, SavedMark } from "./DesignHeader";
import type { Change } from "./draft";
import { DESIGN_PLACES } from "./places";
import type { Saving } from "./useDraft";

export type Dialog = "history" | "print" | "what-if" | "about";

/** The design's own bar: its blade and name, its places in the order of the work, whether it is safe, undo and redo. Stays while a slider moves. */
export const DesignBar = memo(function DesignBar({
  design,
  here,
  name,
  saving,
  dirty,
  undoable,
  redoable,
  addressIn,
  canPrint,
  change,
  undo,
  redo,
  onDialog,
}: {
  design: DesignFull;
  /** The open place. */
  here: string;
  name: string;
  saving: Saving;
  dirty: boolean;
  undoable: boolean;
  redoable: boolean;
  addressIn: (place: string) => string;
  canPrint: boolean;
  change: (c: Change) => void;
  undo: () => void;
  redo: () => void;
  onDialog: (dialog: Dialog) => void;
}) {
  return (
    <section
      aria-label="This design"
      data-design-bar
      className="no-print flex min-h-11 shrink-0 items-center gap-2 border-b border-line bg-ground px-3 max-[700px]:flex-wrap max-[700px]:gap-x-1 max-[700px]:px-1"
    >
      <Link to="/bench" aria-label="To the bench" className="hidden min-h-11 min-w-11 place-items-center max-[700px]:grid">
        <img src="/static/mark.svg" alt="" width={24} height={24} />
      </Link>
      <Link
        to={addressIn(DESIGN_PLACES[0]?.path ?? "")}
        aria-hidden
        tabIndex={-1}
        className="grid h-11 w-20 shrink-0 place-items-center overflow-hidden rounded-md bg-plate max-[900px]:hidden"
      >
        <img src={`/api/designs/${design.id}/picture.png?px=160`} alt="" className="max-h-10 w-full object-contain" />
      </Link>
      <NameField key={design.id} name={name} onRename={(next) => change({ type: "rename", name: next })} />
      <nav
        aria-label="Places of this design"
        className="flex min-w-0 overflow-x-auto max-[700px]:order-last max-[700px]:basis-full max-[700px]:border-t max-[700px]:border-line"
      >
        {DESIGN_PLACES.map((p) => (
          <NavLink key={p.path} to={addressIn(p.path)} className={PLACE_LINK} aria-current={here === p.path ? "page" : false}>
            {p.name}
          </NavLink>
        ))}
      </nav>
      <span className="ml-auto flex items-center gap-1">
        <SavedMark saving={saving} dirty={dirty} />
        <Button kind="quiet" compact label="Undo (Z)" disabled={!undoable} onClick={undo}>
          <Undo2 size={18} aria-hidden />
        </Button>
        <Button kind="quiet" compact label="Redo (Shift Z)" disabled={!redoable} onClick={redo}>
          <Redo2 size={18} aria-hidden />
        </Button>
        <MoreMenu
          id={design.id}
          onHistory={() => onDialog("history")}
          onWhatIf={() => onDialog("what-if")}
          onAbout={() => onDialog("about")}
          onPrint={() => onDialog("print")}
          canPrint={canPrint}
        />
      </span>
    </section>
  );
});
