import { useMemo } from "react";
import type { ProblemItem } from "../../../api/types";
import { useCatalogue } from "../../../api/useCatalogue";
import { sentence, under } from "../fields/problems";
import { SchemaFields } from "../fields/SchemaFields";
import { fieldsOf, type Schema, type Values } from "../fields/schema";

/** A part of the blade (swedge, fuller, tang, choil) as a form made from its model. */
export function PartFields<T extends object>({
  part,
  path,
  values,
  problems,
  onChange,
}: {
  /** The model's name. */
  part: string;
  path: string;
  values: T;
  problems: ProblemItem[];
  onChange: (values: T, what: string) => void;
}) {
  const catalogue = useCatalogue();
  const fields = useMemo(() => {
    const blade = catalogue?.blade as Schema | undefined;
    const model = blade?.$defs?.[part];
    return model ? fieldsOf(model, blade) : [];
  }, [catalogue, part]);
  const own = under(problems, path);
  const whole = own.find((p) => p.path === "");
  return (
    <>
      <SchemaFields fields={fields} values={values as Values} problems={own} onChange={(v, what) => onChange(v as T, what)} />
      {whole ? (
        <p role="alert" className="col-span-full text-sm text-stop">
          {sentence(whole)}
        </p>
      ) : null}
    </>
  );
}
