/** Three columns of a place; on a tablet the right one lies under the middle, and all of them go up and down as one page. */
export const FLOW = {
  grid: "grid min-h-0 flex-1 max-[1100px]:grid-rows-[max-content_minmax(max-content,1fr)] max-[1100px]:overflow-y-auto max-[800px]:flex max-[800px]:flex-none max-[800px]:flex-col max-[800px]:overflow-visible",
  left: "max-[1100px]:row-span-2 max-[1100px]:min-h-max",
  middle: "max-[1100px]:overflow-visible",
  right:
    "border-l border-line max-[1100px]:col-start-2 max-[1100px]:overflow-visible max-[1100px]:border-t max-[1100px]:border-l-0",
};
