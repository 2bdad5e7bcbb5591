/** A column of a table. */
export interface Column<R> {
  /** Its name in the slots. */
  key: string;
  /** What stands over it. */
  title: string;
  /** Figures: mono, to the right. */
  figure?: boolean;
  /** What it is sorted by; without it, it is not sorted. */
  sort?: (row: R) => string | number;
  /** What it can be narrowed to; one of the words it says. */
  narrow?: (row: R) => string;
  /** What the cell says, where no slot does. */
  said?: (row: R) => string | number;
  /** What its title means, where that is a unit or a short name. */
  about?: string;
  /** A column of buttons or links has a name that is only heard. */
  quiet?: boolean;
}

/** Rows by what a column is sorted by; figures by size, words as people order them. */
export function byColumn<R>(column: Column<R>): (a: R, b: R) => number {
  const key = column.sort ?? (() => '');
  return (a, b) => {
    const [x, y] = [key(a), key(b)];
    return typeof x === 'number' && typeof y === 'number'
      ? x - y
      : String(x).localeCompare(String(y), 'en', { numeric: true });
  };
}
