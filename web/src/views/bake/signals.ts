/** A sound made here: three short tones of a struck glass; nothing is fetched. */
export function ring(context: AudioContext): void {
  for (const [i, pitch] of [880, 880, 1320].entries()) {
    const from = context.currentTime + i * 0.28;
    const tone = context.createOscillator();
    const loudness = context.createGain();
    tone.type = "triangle";
    tone.frequency.value = pitch;
    loudness.gain.setValueAtTime(0.0001, from);
    loudness.gain.exponentialRampToValueAtTime(0.6, from + 0.02);
    loudness.gain.exponentialRampToValueAtTime(0.0001, from + 0.26);
    tone.connect(loudness).connect(context.destination);
    tone.start(from);
    tone.stop(from + 0.27);
  }
}

/** Said aloud by the browser's own voice. */
export function speak(text: string): void {
  if (!("speechSynthesis" in window)) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** Shown by the phone itself while the page is not in sight. */
export async function notify(text: string): Promise<void> {
  if (!("Notification" in window) || Notification.permission !== "granted" || !document.hidden) return;
  const worker = await navigator.serviceWorker?.getRegistration().catch(() => undefined);
  if (worker) await worker.showNotification("Mattone", { body: text, tag: "bake" });
  else new Notification("Mattone", { body: text, tag: "bake" });
}
