<script lang="ts">
  import { LOOKED_WITH } from '$lib/api/published';
  import Forbidden from '$lib/frame/Forbidden.svelte';
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Tick from '$lib/ui/Tick.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import BenchSoap from '$lib/stages/prove_tight/BenchSoap.svelte';
  import DecayTest from '$lib/stages/prove_tight/DecayTest.svelte';
  import JointLook from '$lib/stages/prove_tight/JointLook.svelte';
  import LockUp from '$lib/stages/prove_tight/LockUp.svelte';
  import Pressures from '$lib/stages/prove_tight/Pressures.svelte';

  const job = useJob();
  let gases = $derived(job().now?.proofs ?? job().settled?.proofs ?? []);
  let next = $derived(
    gases
      .flatMap((gas) => gas.zones.flatMap((zone) => zone.joints))
      .find((one) => ['open', 'void', 'leaks'].includes(one.state) && (one.made || one.on_day))
  );

  let methods = $derived(job().settled?.job.choice.methods ?? []);
  let trainless = $derived(methods.length > 0 && methods.every((one) => one === 'rejet'));
</script>

<SheetHead
  title="Leak test"
  text="Outdoors, no flame, no spark, plug boot and battery off. Source open, engine stopped, soap in the order of the flow."
/>

{#each gases as gas (gas.fuel)}
  <section data-gas={gas.fuel}>
    <h2>
      {gas.name.charAt(0).toUpperCase() + gas.name.slice(1)}
      {#if gas.tight}<span class="tight">proven tight</span>
      {:else}<span class="quiet">{gas.left.join('; ')}. No start on it until then.</span>{/if}
    </h2>
    <Forbidden no={`No ${gas.name} let in`} why={gas.forbidden} />
    {#if gas.before.length}
      <div class="before" data-before>
        <h3>Seen before the source is opened</h3>
        {#each gas.before as one (one.path)}
          <Tick path={one.path} checked={false}>{one.text}</Tick>
        {/each}
      </div>
    {/if}
    {#if gas.how}
      {@const at = `proof.how.${gas.fuel}`}
      <div class="grid-3" data-how>
        <ChoiceField path={`${at}.by`} label="Looked at with" options={LOOKED_WITH} />
        <QuantityField path={`${at}.air`} />
        <TextField path={`${at}.gauge`} label="Gauge, by name or number" />
        {#if job().settled?.job.proof?.how?.[gas.fuel]?.by.match(/detector|both/)}
          <TextField path={`${at}.detector`} label="Detector, and when calibrated" />
        {/if}
      </div>
    {/if}
    {#each gas.zones as zone (zone.key)}
      <h3>{zone.name}</h3>
      <p class="quiet">{zone.how}</p>
      <ul>
        {#each zone.joints as joint (joint.key)}
          <JointLook {joint} gasoline={gas.fuel === 'gasoline'} next={joint.key === next?.key} />
        {/each}
      </ul>
      {#if zone.can_decay}<DecayTest {zone} />{/if}
    {/each}
    {#if gas.locks}
      <LockUp {gas} />
    {/if}
    {#if gas.meters}
      <Pressures {gas} />
    {/if}
    {#if gas.fuel !== 'gasoline'}<BenchSoap {gas} />{/if}
  </section>
{:else}
  <p class="quiet">
    {#if trainless}
      Another jet has no train of its own: nothing to soap here. Bowl and line are looked at under
      First start.
    {:else}
      No train yet: work it out under Fuel path, then every joint of it stands here.
    {/if}
  </p>
{/each}

<style>
  section {
    margin-bottom: 1.4rem;
  }
  h2 {
    font-weight: 700;
    font-size: 1.1rem;
    display: flex;
    flex-wrap: wrap;
    gap: 0 0.8rem;
    align-items: baseline;
  }
  h2 span {
    font-size: 0.92rem;
    font-weight: 500;
  }
  h3 {
    font-weight: 650;
    margin-top: 0.7rem;
  }
  .tight {
    color: var(--color-success);
    font-weight: 650;
  }
</style>
