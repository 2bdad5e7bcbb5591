/** A small table typed as lines: fields parted by blanks, tabs or semicolons. */
export const rowsFrom = (text: string): string[][] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => line.split(/[\s;]+/));

/** The same rows as text to type over. */
export const rowsTo = (rows: string[][]): string => rows.map((row) => row.join('  ').trim()).join('\n');
