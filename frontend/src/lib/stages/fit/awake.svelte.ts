/** Holds the screen awake while the page is seen; silently not where the browser can't. */
export function stayAwake(): () => void {
  let lock: WakeLockSentinel | undefined;
  let over = false;
  async function hold() {
    if (over || document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
    try {
      lock = await navigator.wakeLock.request('screen');
    } catch {
      // Refused, on low battery for instance.
    }
  }
  void hold();
  document.addEventListener('visibilitychange', hold);
  return () => {
    over = true;
    document.removeEventListener('visibilitychange', hold);
    void lock?.release();
  };
}

/** Say a text with the browser's own voice; what was being said before stops. */
export function say(text: string): void {
  if (!('speechSynthesis' in window)) return;
  speechSynthesis.cancel();
  const spoken = new SpeechSynthesisUtterance(text);
  spoken.lang = 'en';
  spoken.rate = 0.95;
  speechSynthesis.speak(spoken);
}

export const hush = () => 'speechSynthesis' in window && speechSynthesis.cancel();

/** Seconds a step has been on screen; time with the screen off does not count. */
export class Clock {
  seconds = $state(0);
  running = $state(true);
  private timer = setInterval(() => {
    if (this.running && document.visibilityState === 'visible') this.seconds += 1;
  }, 1000);

  start(): void {
    this.seconds = 0;
    this.running = true;
  }

  stop(): void {
    clearInterval(this.timer);
  }

  get text(): string {
    const minutes = Math.floor(this.seconds / 60);
    return `${minutes}:${String(this.seconds % 60).padStart(2, '0')}`;
  }
}
