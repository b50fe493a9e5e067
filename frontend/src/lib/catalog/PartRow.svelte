<script lang="ts">
  import type { components } from '$lib/api/schema';

  interface Props {
    one: components['schemas']['CatalogPartOut'];
    open: boolean;
    toggle: () => void;
  }
  let { one, open, toggle }: Props = $props();
  const HIDDEN = new Set([
    'key',
    'number',
    'name',
    'maker',
    'kind',
    'inlet',
    'outlet',
    'price',
    'stock'
  ]);
  const SCALES: Record<string, [number, string]> = {
    bore_m: [1e3, 'mm'],
    throat_m: [1e3, 'mm'],
    thickness_m: [1e3, 'mm'],
    thread_m: [1e3, 'mm'],
    pitch_m: [1e3, 'mm'],
    bend_m: [1e3, 'mm'],
    length_m: [1, 'm'],
    lift_m: [1, 'm'],
    least_pa: [1 / 249.08891, 'in w.c.'],
    most_pa: [1 / 249.08891, 'in w.c.'],
    set_pa: [1 / 249.08891, 'in w.c.'],
    opening_pa: [1 / 249.08891, 'in w.c.'],
    rating_pa: [1 / 6894.757, 'psi'],
    rated_w: [3.412142e-3, 'kBTU/h'],
    pump_m3_s: [3.6e6, 'L/h'],
    engine_least_m3: [1e6, 'cc'],
    engine_most_m3: [1e6, 'cc'],
    droop: [100, '% droop'],
    lock_up: [100, '%']
  };
  let facts = $derived(
    Object.entries(one.part)
      .filter(
        ([key, value]) =>
          !HIDDEN.has(key) &&
          value !== null &&
          value !== '' &&
          value !== false &&
          value !== 0 &&
          !(Array.isArray(value) && !value.length)
      )
      .map(([key, value]) => {
        const scale = SCALES[key];
        const name = key.replace(/_(m|pa|k|w|kg|m3|m3_s)$/, '').replaceAll('_', ' ');
        if (typeof value === 'number' && key.endsWith('_k'))
          return [name, `${(value - 273.15).toFixed(0)} °C`];
        if (typeof value === 'number' && scale)
          return [name, `${Number((value * scale[0]).toPrecision(4))} ${scale[1]}`];
        return [name, value === true ? 'yes' : String(value).replaceAll('_', ' ')];
      })
  );
</script>

<tr data-part={one.part.key}>
  <td class="num n-left">{one.part.number}</td>
  <td>
    <button type="button" aria-expanded={open} onclick={toggle}>{one.part.name}</button>
    {#if one.own}<span class="own">this shop's</span>{/if}
  </td>
  <td class="wide quiet">{one.inlet}</td>
  <td class="wide quiet">{one.outlet}</td>
  <td class="n num">{one.part.site ? '' : one.part.stock}</td>
  <td class="n num">{one.part.site ? 'on site' : `$ ${one.part.price?.toFixed(2)}`}</td>
</tr>
{#if open}
  <tr class="more">
    <td></td>
    <td colspan="5">
      <dl>
        <dt>maker</dt>
        <dd>{one.part.maker}</dd>
        {#each facts as [name, text] (name)}<dt>{name}</dt>
          <dd>{text}</dd>{/each}
      </dl>
    </td>
  </tr>
{/if}

<style>
  td {
    border-top: 1px solid var(--rule);
    padding: 0.28rem 0.8rem 0.28rem 0;
    vertical-align: top;
  }
  .more td {
    border: 0;
  }
  button {
    text-align: left;
    cursor: pointer;
  }
  button:hover {
    text-decoration: underline;
  }
  .own {
    font-size: 0.82rem;
    color: var(--color-primary);
    margin-left: 0.4rem;
  }
  .n-left {
    white-space: nowrap;
  }
  .n {
    text-align: right;
    white-space: nowrap;
  }
  dl {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(6rem, max-content) minmax(6rem, 1fr));
    gap: 0.1rem 0.9rem;
    font-size: 0.9rem;
    padding-bottom: 0.5rem;
  }
  dt {
    color: var(--muted);
  }
</style>
