<script lang="ts" generics="P extends Record<string, unknown>">
  import { QueryClient, QueryClientProvider } from '@tanstack/svelte-query';
  import type { Component } from 'svelte';
  import type { Reference } from '$lib/api/client';
  import { provideJob, type JobSession } from '$lib/session/session.svelte';

  interface Props {
    session: JobSession;
    reference: Reference;
    shown: Component<P>;
    with: P;
  }
  let { session, reference, shown: Shown, with: given }: Props = $props();
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  // svelte-ignore state_referenced_locally
  client.setQueryData(['reference'], reference);
  provideJob(() => session);
</script>

<QueryClientProvider {client}><Shown {...given} /></QueryClientProvider>
