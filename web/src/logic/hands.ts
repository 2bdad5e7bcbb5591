/** Seconds as the hands of a clock show them: "1:42", "1:02:03". */
export function hands(seconds: number): string {
  const all = Math.floor(Math.abs(seconds));
  const h = Math.floor(all / 3600);
  const m = Math.floor((all % 3600) / 60);
  const s = String(all % 60).padStart(2, '0');
  return h ? `${h}:${String(m).padStart(2, '0')}:${s}` : `${m}:${s}`;
}
