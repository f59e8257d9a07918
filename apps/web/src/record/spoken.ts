/** What is heard in the room where somebody stands away from the screen: chimes, and words where the browser can speak. */
let context: AudioContext | null = null;

/** A short tone. @param high of the last second of a count-down. */
export function chime(high = false): void {
  context ??= new AudioContext();
  void context.resume();
  const [tone, loudness] = [context.createOscillator(), context.createGain()];
  tone.frequency.value = high ? 1046 : 659;
  tone.type = 'triangle';
  const now = context.currentTime;
  loudness.gain.setValueAtTime(0.0001, now);
  loudness.gain.exponentialRampToValueAtTime(0.4, now + 0.02);
  loudness.gain.exponentialRampToValueAtTime(0.0001, now + (high ? 0.5 : 0.2));
  tone.connect(loudness).connect(context.destination);
  tone.start(now);
  tone.stop(now + 0.6);
}

/** Says something, and leaves off what it was saying. */
export function say(words: string): void {
  if (!('speechSynthesis' in window)) return;
  speechSynthesis.cancel();
  const spoken = new SpeechSynthesisUtterance(words);
  spoken.lang = 'en';
  speechSynthesis.speak(spoken);
}
