/** What the units and short names of the trade mean, for who meets them first. */
export const MEANS = {
  points: 'A point is a thousandth of specific gravity: 1.250 lies 10 points under 1.260.',
  spread:
    'The highest cell less the lowest, corrected to one temperature, in points: thousandths of gravity.',
  median: 'The middle cell: half of them read higher, half lower. One bad cell does not move it.',
  c20: 'Ampere-hours from full to empty when it is discharged evenly over twenty hours.',
  gravity: 'Weight of the acid against the same volume of water, at the temperature of reference.',
  block: 'The end of the name a battery keeps, wherever it stands: its history follows it.',
  repeats: 'How far two readings of one cell lie apart when nothing has changed.',
} as const;
