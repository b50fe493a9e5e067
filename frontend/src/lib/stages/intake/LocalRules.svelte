<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import { STORAGE } from '$lib/api/published';
  import { useJob } from '$lib/session/session.svelte';

  interface Props {
    at: string;
  }
  let { at }: Props = $props();
  const job = useJob();
  let noise = $derived(job().now?.noise ?? job().settled?.noise ?? []);
</script>

<section class="section">
  <h2>Local rules</h2>
  <div class="grid-3">
    <ChoiceField path={`${at}.storage`} label="Fuel is stored" options={STORAGE} />
    <TextField path={`${at}.quiet_hours`} label="Quiet hours" placeholder="22 to 7" />
    <QuantityField path={`${at}.neighbor`} />
    <QuantityField path={`${at}.quiet_limit`} hint="As the place or the campground asks." />
    <div class="noise" data-noise>
      {#each noise as one (one.key)}
        <span>{one.label}</span><Figure figure={one} band />
      {:else}
        <span class="quiet">How loud it is there follows from the plate's sound level.</span>
      {/each}
    </div>
    <QuantityField
      path={`${at}.least_opening`}
      assumed="20 ft (6 m)"
      hint="Nearer only with a reason and a name, and never under 10 ft (3 m)."
    />
    <TextField path={`${at}.least_opening_why`} label="Why nearer to openings" />
    <TextField path={`${at}.least_opening_by`} label="Who says so, openings" />
    <QuantityField
      path={`${at}.least_cylinder`}
      assumed="5 ft (1.5 m)"
      hint="Nearer only with a reason and a name, and never under 3 ft (0.9 m)."
    />
    <TextField path={`${at}.least_cylinder_why`} label="Why nearer to a cylinder" />
    <TextField path={`${at}.least_cylinder_by`} label="Who says so, cylinder" />
  </div>
  <TextField path={`${at}.note`} label="Notes on the site" rows={3} />
</section>

<style>
  .noise {
    grid-column: span 2;
    display: grid;
    grid-template-columns: auto 1fr;
    align-content: start;
    align-items: baseline;
    justify-items: start;
    gap: 0.3rem 1rem;
    padding-top: 1.6rem;
  }
</style>
