import { putInto } from '../groupBy.ts';

/** What fits a row of {@link assign}: a column with its log odds. */
export interface Fit {
  readonly column: number;
  readonly odds: number;
}

/** What a row is assigned, and how far ahead that is. */
export interface Assigned {
  readonly column: number;
  readonly odds: number;
  /** By how much the likeliest whole in which this row goes elsewhere is less likely, in log odds. */
  readonly margin: number;
}

/** How far ahead is looked: more does not matter. */
const FAR_AHEAD = 12;

/**
 * Assigns rows to columns, each at most once, so that the whole is likeliest; a row or column may also stay
 * alone, which weighs nothing. Rows are put in one after the other along the cheapest way of displacing others
 * (successive shortest paths with potentials; Kuhn 1955, Edmonds and Karp 1972), which only ever looks at what
 * they share.
 *
 * @param fits for each row the columns that fit it
 * @returns for each row its column and by how much that is ahead; null where it stays alone
 * @example assign([[{ column: 0, odds: 5 }], [{ column: 0, odds: 7 }]]) // [null, { column: 0, odds: 7, margin: 2 }]
 */
export function assign(fits: readonly (readonly Fit[])[]): readonly (Assigned | null)[] {
  const graph = new Assignment(fits);
  for (const row of fits.keys()) graph.put(row);
  return fits.map((_, row) => graph.assigned(row));
}

/** An edge to a column, by cost; staying alone is a column of a row's own that costs nothing. */
interface Edge {
  readonly column: number;
  readonly cost: number;
}

class Assignment {
  private readonly edges: readonly (readonly Edge[])[];
  /** The row in each column. */
  private readonly rowIn = new Map<number, number>();
  private readonly columnOf: number[];
  /** Potentials of columns, never above zero; those of free columns are zero. */
  private readonly price = new Map<number, number>();
  /** Potentials of rows. */
  private readonly worth: number[];
  /** The rows that fit each column. */
  private readonly rowsFor = new Map<number, number[]>();

  constructor(fits: readonly (readonly Fit[])[]) {
    this.edges = fits.map((own, row) => [
      ...own.map(({ column, odds }) => ({ column, cost: -odds })),
      { column: -1 - row, cost: 0 },
    ]);
    for (const [row, own] of this.edges.entries()) {
      for (const { column } of own) putInto(this.rowsFor, column, row);
    }
    this.columnOf = fits.map(() => Number.NaN);
    this.worth = fits.map(() => 0);
  }

  private reduced(row: number, { column, cost }: Edge): number {
    return cost - (this.worth[row] ?? 0) - (this.price.get(column) ?? 0);
  }

  /** Puts a row in, displacing others where the whole is likelier so. */
  put(start: number): void {
    const distance = new Map<number, number>();
    const before = new Map<number, number>();
    const done = new Map<number, number>();
    // The new row's worth is what makes its best edge cost nothing.
    this.worth[start] = Math.min(
      ...(this.edges[start] ?? []).map(({ column, cost }) => cost - (this.price.get(column) ?? 0)),
    );
    let row = start;
    let reach = 0;
    let free: number | null = null;
    while (free === null) {
      for (const edge of this.edges[row] ?? []) {
        if (done.has(edge.column)) continue;
        const total = reach + Math.max(this.reduced(row, edge), 0);
        if (total < (distance.get(edge.column) ?? Number.POSITIVE_INFINITY)) {
          distance.set(edge.column, total);
          before.set(edge.column, row);
        }
      }
      const next = nearest(distance);
      if (next === null) return;
      [row, reach] = [this.rowIn.get(next[0]) ?? -1, next[1]];
      distance.delete(next[0]);
      done.set(next[0], reach);
      if (row < 0) free = next[0];
    }
    this.worth[start] = (this.worth[start] ?? 0) + reach;
    for (const [column, at] of done) {
      const own = this.rowIn.get(column);
      if (own === undefined) continue;
      this.price.set(column, (this.price.get(column) ?? 0) - (reach - at));
      this.worth[own] = (this.worth[own] ?? 0) + (reach - at);
    }
    for (let column = free; ; ) {
      const own = before.get(column) ?? start;
      const left = this.columnOf[own] ?? Number.NaN;
      this.columnOf[own] = column;
      this.rowIn.set(column, own);
      if (own === start) return;
      column = left;
    }
  }

  assigned(row: number): Assigned | null {
    const column = this.columnOf[row] ?? -1;
    const edge = this.edges[row]?.find((each) => each.column === column);
    if (!edge || column < 0) return null;
    return { column, odds: -edge.cost, margin: this.margin(row, column) };
  }

  /**
   * By how much the best assignment in which a row does not have its column is worse: the cheapest way of giving
   * it another one, those displaced by that others again, until one is free.
   */
  private margin(start: number, own: number): number {
    const distance = new Map<number, number>();
    const done = new Set<number>();
    const freed = this.freeing(start, own);
    let best = FAR_AHEAD;
    let row = start;
    let reach = 0;
    for (;;) {
      for (const edge of this.edges[row] ?? []) {
        const isKept = edge.column === this.columnOf[row];
        if (isKept || done.has(edge.column)) continue;
        const total = reach + Math.max(this.reduced(row, edge), 0);
        if (total < Math.min(best, distance.get(edge.column) ?? best)) {
          distance.set(edge.column, total);
        }
      }
      const next = nearest(distance);
      if (next === null || next[1] >= best) return best;
      const [column, at] = next;
      distance.delete(column);
      done.add(column);
      const inside = this.rowIn.get(column);
      if (column === own) best = at;
      else if (inside === undefined) best = Math.min(best, at + freed);
      else [row, reach] = [inside, at];
      if (column === own || inside === undefined) {
        row = -1;
        reach = at;
      }
    }
  }

  /** What it costs that a row leaves its column: the next best row may take it, and leave another one free. */
  private freeing(start: number, own: number): number {
    const distance = new Map([[own, 0]]);
    const done = new Set<number>();
    let best = FAR_AHEAD;
    for (;;) {
      const next = nearest(distance);
      if (next === null || next[1] >= best) return best;
      const [column, at] = next;
      distance.delete(column);
      done.add(column);
      best = Math.min(best, at - (this.price.get(column) ?? 0));
      for (const row of this.rowsFor.get(column) ?? []) {
        const left = this.columnOf[row];
        const edge = this.edges[row]?.find((each) => each.column === column);
        if (row === start || !edge || left === undefined || done.has(left)) continue;
        const total = at + Math.max(this.reduced(row, edge), 0);
        if (total < (distance.get(left) ?? best)) distance.set(left, total);
      }
    }
  }
}

function nearest(distance: ReadonlyMap<number, number>): readonly [number, number] | null {
  let found: readonly [number, number] | null = null;
  for (const [column, at] of distance) if (found === null || at < found[1]) found = [column, at];
  return found;
}
