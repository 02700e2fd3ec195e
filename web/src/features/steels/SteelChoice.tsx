import { Choice } from "../../ui";
import { greyOf, useSteels } from "./useSteels";

/** One steel of the list; those in the rack come first. */
export function SteelChoice({
  value,
  onChange,
  label = "Steel",
}: {
  value: string;
  onChange: (key: string) => void;
  label?: string;
}) {
  const steels = useSteels();
  const ordered = [...steels.filter((s) => s.in_rack), ...steels.filter((s) => !s.in_rack)];
  const options = ordered.map((s) => ({
    value: s.key,
    label: s.name,
    short: s.name.split(" ")[0],
    hint: s.why_tone,
    swatch: greyOf(s.grey),
  }));
  return <Choice label={label} value={value} options={options} onChange={onChange} />;
}
