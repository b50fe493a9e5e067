<script lang="ts">
  import { QueryClientProvider, type QueryClient } from '@tanstack/svelte-query';
  import type { Component } from 'svelte';

  interface Props {
    shown: unknown;
    with: Record<string, unknown>;
    client: QueryClient;
  }
  let { shown, with: given, client }: Props = $props();
  const Shown = $derived(shown as Component<Record<string, unknown>>);
</script>

<QueryClientProvider {client}><Shown {...given} /></QueryClientProvider>
