<script lang="ts">
  import { counted } from '$lib/api/settled';
  import type { Figure as FigureOf } from '$lib/api/client';
  import { draw, RATE, samples } from './recording';
  import Figure from '$lib/ui/Figure.svelte';

  const id = $props.id();
  const SECONDS = 4;
  const ENGINES = [
    ['1', 'one', 1, false],
    ['v', 'two, a V-twin', 2, false],
    ['2', 'two, side by side', 2, true],
    ['3', 'three', 3, true],
    ['4', 'four', 4, true]
  ] as const;
  let engine = $state('1');
  let hertz = $state('');
  let found = $state.raw<FigureOf[]>([]);
  let trouble = $state('');
  let left = $state(0);
  let shape = $state('');

  function asked(): string {
    const [, , cylinders, even] = ENGINES.find(([key]) => key === engine) ?? ENGINES[0];
    const query = { rate: String(RATE), cylinders: String(cylinders), even: String(even) };
    return new URLSearchParams(hertz ? { ...query, hertz } : query).toString();
  }

  async function judge(recorded: ArrayBuffer) {
    trouble = '';
    found = [];
    try {
      const sound = await samples(recorded);
      shape = draw(sound);
      const loudest = sound.reduce((top, one) => Math.max(top, Math.abs(one)), 1e-6);
      const body = Int16Array.from(sound, (one) => Math.round((one / loudest) * 32_000));
      const answer = await counted(`/api/quick/sound?${asked()}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/octet-stream' },
        body
      });
      const told: unknown = await answer.json();
      if (answer.ok) found = told as FigureOf[];
      else trouble = (told as { errors: { message: string }[] }).errors[0]?.message ?? '';
    } catch {
      trouble = 'That could not be read as sound. Nothing was lost; record once more.';
    }
  }

  async function record() {
    trouble = '';
    let stream: MediaStream;
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false }
      });
    } catch {
      trouble = 'No microphone here, or it is not allowed. A recording can be loaded instead.';
      return;
    }
    const parts: Blob[] = [];
    const recorder = new MediaRecorder(stream);
    recorder.ondataavailable = (event) => parts.push(event.data);
    recorder.onstop = async () => {
      for (const track of stream.getTracks()) track.stop();
      await judge(await new Blob(parts).arrayBuffer());
    };
    recorder.start();
    left = SECONDS;
    const timer = setInterval(() => {
      left -= 1;
      if (left > 0) return;
      clearInterval(timer);
      recorder.stop();
    }, 1000);
  }

  async function load(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    if (file) await judge(await file.arrayBuffer());
  }
</script>

<div class="ask">
  <div class="field">
    <label for={`${id}-c`}>Cylinders</label>
    <select id={`${id}-c`} class="select" bind:value={engine}>
      {#each ENGINES as [key, text] (key)}<option value={key}>{text}</option>{/each}
    </select>
  </div>
  <div class="field">
    <label for={`${id}-h`}>Plate says</label>
    <select id={`${id}-h`} class="select" bind:value={hertz}>
      <option value="">not said, or an inverter</option>
      <option value="60">60 Hz</option>
      <option value="50">50 Hz</option>
    </select>
  </div>
  <button class="btn btn-primary" onclick={record} disabled={left > 0}
    >{left > 0 ? `Listening, ${left} s` : `Listen for ${SECONDS} s`}</button
  >
  <label class="btn"
    >Load a recording<input class="sr" type="file" accept="audio/*" onchange={load} /></label
  >
</div>
{#if trouble}<p class="wrong" role="alert">{trouble}</p>{/if}
{#if shape}<svg viewBox="0 0 480 32" aria-hidden="true"><path d={shape} /></svg>{/if}
<div class="answer" aria-live="polite">
  {#each found as one (one.key)}
    <p><span class="quiet">{one.label}</span> <Figure figure={one} size="big" band /></p>
  {/each}
</div>
<p class="quiet">
  A meter from the exhaust's side, out of the wind, at a steady load. The sound goes no farther than
  this shop's own server, and is not kept.
</p>

<style>
  .ask {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem 0.9rem;
    align-items: end;
  }
  .field {
    width: 12rem;
  }
  .wrong {
    color: var(--color-error);
    font-weight: 600;
    margin-top: 0.5rem;
  }
  svg {
    width: 100%;
    max-width: 40rem;
    margin-top: 0.6rem;
  }
  path {
    stroke: var(--muted);
    stroke-width: 1.2;
  }
  .answer p {
    display: flex;
    gap: 0.8rem;
    align-items: baseline;
  }
</style>
