<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query';
  import { api, ask } from '$lib/api/client';
  import { grouped } from '$lib/ui/numbers';

  const saves = createQuery(() => ({
    queryKey: ['backups'],
    queryFn: () => ask(api.GET('/api/backups'))
  }));
</script>

<p class="quiet mb-3" data-backups>
  {#if saves.data?.kept.length}Last backup: {saves.data.kept[0]?.day}, {grouped(
      (saves.data.kept[0]?.size ?? 0) / 1e6,
      1
    )} MB; {saves.data.kept.length} there.{:else}No daily backup yet: one is made each day the shop
    is served.{/if} A copy elsewhere outlives the machine.
</p>
