<script lang="ts">
  interface Props {
    logo: string;
    put: (logo: string) => void;
  }
  let { logo, put }: Props = $props();
  async function picture(file: File | undefined) {
    if (!file) return;
    const bytes = new Uint8Array(await file.arrayBuffer());
    put(btoa(Array.from(bytes, (one) => String.fromCharCode(one)).join('')));
  }
</script>

<label for="logo">Logo, a PNG of up to 300 kB</label>
<input
  id="logo"
  type="file"
  class="file:btn file:btn-sm file:mr-3"
  accept="image/png"
  onchange={(e) => void picture(e.currentTarget.files?.[0])}
/>
{#if logo}
  <img src={`data:image/png;base64,${logo}`} alt="Logo of the shop" />
  <button type="button" class="link" onclick={() => put('')}>No logo</button>
{/if}

<style>
  img {
    max-height: 4rem;
    margin: 0.4rem 0;
  }
</style>
