/** Of units and those half as wide again, which a form offers for each: of the first none that is the half of another, of the second only its own. */
export const halves = <T extends { id: string }>(
  chosen: string,
  half: string | null,
  isAndHalf: (unit: T, wide: T) => boolean,
) => ({
  unit: (item: T, _: number, all: readonly T[]): boolean => item.id === chosen || !all.some((one) => isAndHalf(one, item)),
  andHalf: (item: T, _: number, all: readonly T[]): boolean =>
    item.id === half || all.some((one) => one.id === chosen && isAndHalf(one, item)),
});
