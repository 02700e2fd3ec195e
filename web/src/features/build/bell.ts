/** Sound and light by the fire: a bell of two partials, the screen kept awake. Neither is there in every browser. */

let audio: AudioContext | null = null;

/** Wants one touch of the page before it may sound: called with each. */
export function unlockBell(): void {
  if (!("AudioContext" in window)) return;
  audio ??= new AudioContext();
  if (audio.state === "suspended") void audio.resume().catch(() => undefined);
}

/** Struck three times; whether it could be heard. */
export function ring(): boolean {
  if (audio?.state !== "running") return false;
  for (const strike of [0, 0.45, 0.9]) {
    for (const [hertz, loud] of [
      [880, 0.5],
      [2217, 0.2],
    ] as const) {
      const tone = audio.createOscillator();
      const fade = audio.createGain();
      const at = audio.currentTime + strike;
      tone.frequency.value = hertz;
      fade.gain.setValueAtTime(loud, at);
      fade.gain.exponentialRampToValueAtTime(0.001, at + 0.8);
      tone.connect(fade).connect(audio.destination);
      tone.start(at);
      tone.stop(at + 0.85);
    }
  }
  return true;
}

/** Keeps the screen lit while the page is in sight; gives back what lets it go. */
export function keepAwake(onChange: (awake: boolean) => void): () => void {
  let lock: WakeLockSentinel | null = null;
  let over = false;
  const take = async () => {
    if (over || document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
    try {
      lock = await navigator.wakeLock.request("screen");
      lock.addEventListener("release", () => onChange(false));
      onChange(true);
      if (over) void lock.release();
    } catch {
      // a low battery, or a policy: the timers ring all the same while the screen is lit
      onChange(false);
    }
  };
  void take();
  document.addEventListener("visibilitychange", take);
  return () => {
    over = true;
    document.removeEventListener("visibilitychange", take);
    void lock?.release();
  };
}
