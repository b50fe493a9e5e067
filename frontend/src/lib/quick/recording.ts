/** Samples a second that an engine's note needs. */
export const RATE = 8000;

/** One channel at a rate the engine's note needs, whatever it was recorded at. */
export async function samples(recorded: ArrayBuffer): Promise<Float32Array> {
  const context = new OfflineAudioContext(1, 1, 44_100);
  const whole = await context.decodeAudioData(recorded);
  const down = new OfflineAudioContext(1, Math.ceil(whole.duration * RATE), RATE);
  const source = down.createBufferSource();
  source.buffer = whole;
  source.connect(down.destination);
  source.start();
  return (await down.startRendering()).getChannelData(0);
}

/** Loudness over time as strokes of a drawing 480 wide and 32 high. */
export function draw(sound: Float32Array): string {
  const columns = 240;
  const wide = Math.max(1, Math.floor(sound.length / columns));
  const highs = [...Array(columns).keys()].map((i) =>
    Math.max(0.01, ...sound.subarray(i * wide, (i + 1) * wide))
  );
  const top = Math.max(...highs);
  return highs.map((high, i) => `M${i * 2} ${(30 - (28 * high) / top).toFixed(1)}V30`).join('');
}
