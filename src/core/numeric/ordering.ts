/**
 * An elimination order in which a symmetric sparse matrix has a narrow band:
 * reverse Cuthill-McKee, started from a far end of each connected part.
 *
 * @param neighbours for every unknown, the unknowns it shares an equation with
 * @returns the unknowns in the order found
 * @remarks E. Cuthill and J. McKee, Reducing the bandwidth of sparse symmetric
 *   matrices, ACM National Conference, 1969; reversed after A. George, 1971
 *   (from memory).
 */
export function bandOrder(neighbours: readonly (readonly number[])[]): number[] {
  const size = neighbours.length;
  const seen = new Uint8Array(size);
  const order: number[] = [];
  /** Breadth-first from a start; the last one reached is among the farthest. */
  const spread = (start: number, mark: Uint8Array): number[] => {
    const reached = [start];
    mark[start] = 1;
    for (let at = 0; at < reached.length; at += 1) {
      const next = neighbours[reached[at]].filter((other) => !mark[other]);
      next.sort((a, b) => neighbours[a].length - neighbours[b].length);
      for (const other of next) {
        if (mark[other]) continue;
        mark[other] = 1;
        reached.push(other);
      }
    }
    return reached;
  };
  for (let unknown = 0; unknown < size; unknown += 1) {
    if (seen[unknown]) continue;
    const once = spread(unknown, seen.slice());
    const twice = spread(once[once.length - 1], seen.slice());
    for (const reached of spread(twice[twice.length - 1], seen)) order.push(reached);
  }
  return order.reverse();
}

/** Greatest distance in the order between two unknowns that share an equation. */
export function bandwidthOf(neighbours: readonly (readonly number[])[], place: ArrayLike<number>): number {
  let width = 0;
  neighbours.forEach((others, unknown) => {
    for (const other of others) width = Math.max(width, Math.abs(place[unknown] - place[other]));
  });
  return width;
}
