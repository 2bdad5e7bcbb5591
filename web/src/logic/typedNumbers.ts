/** Typed numbers by name; an empty one is null, and what is no number is told. */
export function numbersOf(typed: Record<string, string>): {
  numbers: Record<string, number | null>;
  faults: Record<string, string>;
} {
  const numbers: Record<string, number | null> = {};
  const faults: Record<string, string> = {};
  for (const [key, text] of Object.entries(typed)) {
    const plain = text.trim().replace(',', '.').replace('−', '-');
    if (!plain) numbers[key] = null;
    else if (/^-?\d+(\.\d+)?$/.test(plain)) numbers[key] = Number(plain);
    else faults[key] = `“${text}” is not a number; accepted are digits and one comma or point.`;
  }
  return { numbers, faults };
}
