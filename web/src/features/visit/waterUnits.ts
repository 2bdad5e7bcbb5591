import type { Schemas } from '@/api/client';

type Choice = { value: Schemas['WaterUnit']; label: string };

const METRIC: Choice[] = [
  { value: 'litre', label: 'L' },
  { value: 'millilitre', label: 'mL' },
];
const US: Choice[] = [
  { value: 'us_quart', label: 'US qt' },
  { value: 'us_ounce', label: 'US fl oz' },
  { value: 'us_cup', label: 'US cups' },
  { value: 'us_pint', label: 'US pt' },
  { value: 'us_gallon', label: 'US gal' },
];

/** What water is measured out in; a person's own measures come first. */
export function waterUnits(volume: Schemas['VolumeUnit'] | undefined): Choice[] {
  return volume === 'us_gallon' ? [...US, ...METRIC] : [...METRIC, ...US];
}
