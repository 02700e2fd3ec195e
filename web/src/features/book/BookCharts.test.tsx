import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Build } from "../../api/types";
import { server, shown } from "../../lib/testing";
import { BookCharts } from "./BookCharts";

const build = (id: number, summary: object) =>
  ({
    id,
    title: `Blade ${id}`,
    summary: { faults: [], blade: null, put_in: null, took: 0, planned_of_said: 0, ...summary },
  }) as unknown as Build;

test("a bar is as long as its share, and a fault is called as the trade calls it", async () => {
  server({ "GET /api/finish/faults": () => [{ key: "black_line", says: "A thin black line at a weld", look: "", causes: [] }] });
  shown(
    <BookCharts
      builds={[
        build(1, { blade: 75, put_in: 1000, took: 60, planned_of_said: 30, faults: ["black_line"] }),
        build(2, { blade: 125, put_in: 1000, took: 120, planned_of_said: 120 }),
      ]}
    />,
  );
  const bars = [...screen.getByRole("region", { name: "Yield" }).querySelectorAll<HTMLElement>("[style]")].map(
    (e) => e.style.width,
  );
  expect(bars.map(Number.parseFloat)).toEqual([12.5, 7.5]);
  const hours = [...screen.getByRole("region", { name: "Hours" }).querySelectorAll<HTMLElement>("[style]")].map(
    (e) => e.style.width,
  );
  expect(hours.map(Number.parseFloat)).toEqual([100, 100, 25, 50]);
  expect(await within(screen.getByRole("region", { name: "Faults" })).findByText("a thin black line at a weld")).toBeTruthy();
});
