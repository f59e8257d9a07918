/** The place between two neighbours in a list that is ordered by place; at an end one before or after. */
export function placeBetween(before: number | undefined, after: number | undefined): number {
  if (before === undefined) return (after ?? 0) - 1;
  if (after === undefined) return before + 1;
  return (before + after) / 2;
}

/** Where an item gets that is moved within a list. @returns its new place. */
export function placeAfterMove(places: readonly number[], from: number, to: number): number {
  const others = places.filter((_, i) => i !== from);
  return placeBetween(others[to - 1], others[to]);
}
