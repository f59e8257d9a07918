/**
 * Whose turn it is: of what waits, the first of those whose owner has the least at work now. So what belongs to a long
 * piece of work does not hold up a short one that came later.
 * @param waiting in the order in which it came, at least one; what is chosen is taken out.
 * @param active the owners of what is at work.
 */
export function takeTurn<T, O>(waiting: T[], active: readonly O[], ownerOf: (item: T) => O): T {
  const share = (item: T): number => active.filter((owner) => owner === ownerOf(item)).length;
  const chosen = waiting.reduce((best, item) => (share(item) < share(best) ? item : best));
  waiting.splice(waiting.indexOf(chosen), 1);
  return chosen;
}
