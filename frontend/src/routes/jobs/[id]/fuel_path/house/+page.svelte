<script lang="ts">
  import ChoiceField from '$lib/ui/ChoiceField.svelte';
  import QuantityField from '$lib/ui/QuantityField.svelte';
  import TextField from '$lib/ui/TextField.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import SheetHead from '$lib/frame/SheetHead.svelte';
  import Rows from '$lib/ui/Rows.svelte';
  import { useJob } from '$lib/session/session.svelte';
  import { prefs } from '$lib/session/prefs.svelte';

  const job = useJob();
  let site = $derived(job().settled?.job.site ?? 's1');
  let houses = $derived(job().now?.house ?? job().settled?.house ?? []);
  const SIZES = ['3/8', '1/2', '3/4', '1', '1-1/4', '1-1/2', '2', '2-1/2', '3'].map(
    (size) => [size, `${size} in`] as const
  );
  const FRESH = { name: '', parent: '', length: null, load: null, size: '' };

  function sections(gas: string) {
    return job().settled?.job.sites?.[site]?.gases?.[gas]?.house?.sections ?? {};
  }
  function parents(gas: string, own: string) {
    return [
      ['', 'the meter'] as const,
      ...Object.entries(sections(gas))
        .filter(([key]) => key !== own)
        .map(([key, one]) => [key, one.name || key] as const)
    ];
  }
</script>

<SheetHead
  title="House pipe"
  text="The piping before the stub, by the longest-length method. For a licensed fitter and the local code to confirm."
/>

{#each houses as house (house.gas)}
  {@const at = `sites.${site}.gases.${house.gas}`}
  <section class="section" data-house={house.gas}>
    <p
      class="mb-[.6rem]"
      class:text-error={house.meter_enough === false}
      class:font-semibold={house.meter_enough === false}
    >
      All appliances and the set: <b class="num">{house.total[prefs.system]}</b>.
      {#if house.meter}
        The meter is rated for <b class="num">{house.meter[prefs.system]}</b>: {house.meter_enough
          ? 'enough'
          : 'too small, the utility must change it'}.
      {:else}
        The meter is not known.
      {/if}
      {#if house.sections.length}
        Longest length <b class="num">{house.longest[prefs.system]}</b>.
      {/if}
    </p>
    {#if house.faults['']}<p class="quiet">{house.faults['']}</p>{/if}
    <div class="grid-3">
      <QuantityField path={`${at}.meter`} />
      <QuantityField path={`${at}.house.allowed`} assumed={124.54} />
      <ChoiceField
        path={`${at}.house.stub`}
        label="The generator's stub ends"
        options={[
          ['', 'not said'],
          ...Object.entries(sections(house.gas)).map(
            ([key, one]) => [key, one.name || key] as const
          )
        ]}
      />
    </div>
    <Rows
      path={`${at}.house.sections`}
      prefix="p"
      title="Sections"
      text="Each length of pipe, what it comes from and the appliance at its end."
      add="Section"
      fresh={FRESH}
    >
      {#snippet row(path)}
        {@const key = path.split('.').at(-1) ?? ''}
        {@const sized = house.sections.find((one) => one.key === key)}
        <div class="grid-3">
          <TextField path={`${path}.name`} label="Name" />
          <ChoiceField
            path={`${path}.parent`}
            label="Comes from"
            options={parents(house.gas, key)}
          />
          <QuantityField path={`${path}.length`} />
          <QuantityField path={`${path}.load`} />
          <ChoiceField
            path={`${path}.size`}
            label="Size that is there"
            options={[['', 'to be sized'], ...SIZES]}
          />
          <div class="pt-[1.4rem] text-[.92rem]" data-sized={key}>
            {#if sized}
              <p>carries <Figure figure={sized.load} /></p>
              <p
                class:text-error={sized.enough === false}
                class:font-semibold={sized.enough === false}
              >
                {sized.enough === false
                  ? `too small: wants ${sized.wanted ?? 'more than 3'} in`
                  : sized.enough
                    ? 'large enough'
                    : `wants ${sized.wanted ?? 'more than 3'} in`}
              </p>
              {#if sized.drop}<p>drops <Figure figure={sized.drop} /></p>{/if}
            {:else}<p class="quiet">
                {house.faults[key] ?? 'sized once every length is given'}
              </p>{/if}
          </div>
        </div>
      {/snippet}
    </Rows>
  </section>
{:else}
  <p class="quiet">No house gas on this site.</p>
{/each}
