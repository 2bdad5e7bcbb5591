/** Tones of an alarm: pitch in hertz, and how often they sound in one call. */
const CALLS: Record<string, [number, number]> = {
  reading: [660, 2],
  charger: [440, 3],
  resume: [600, 3],
  pause: [520, 3],
  stop: [880, 5],
  count: [740, 3],
};

let context: AudioContext | null = null;

/** Lets this device sound: browsers want a press first. */
export function allowSound(): void {
  context ??= new AudioContext();
  void context.resume();
}

/** True when this device may sound. */
export function soundAllowed(): boolean {
  return context?.state === 'running';
}

/** Sounds once for what the room must hear. */
export function sound(alarm: string): void {
  const call = CALLS[alarm];
  if (!context || !call || context.state !== 'running') return;
  const [pitch, times] = call;
  for (let i = 0; i < times; i++) {
    const at = context.currentTime + i * 0.45;
    const tone = context.createOscillator();
    const loud = context.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.0001, at);
    loud.gain.exponentialRampToValueAtTime(0.5, at + 0.03);
    loud.gain.exponentialRampToValueAtTime(0.0001, at + 0.32);
    tone.connect(loud).connect(context.destination);
    tone.start(at);
    tone.stop(at + 0.35);
  }
}
